// interfaces.go ROOT: what the interfaces of the library below a folder ask for, a line each: the names of all methods in order, each with how many
// parameters it has and how many results.
package main

import (
	"fmt"
	"go/ast"
	"go/importer"
	"go/parser"
	"go/token"
	"go/types"
	"os"
	"path/filepath"
	"sort"
	"strings"
)

// asked is a line for an interface, or nothing where no type of another package can have its methods.
func asked(of *types.Interface) string {
	var methods []string
	for index := 0; index < of.NumMethods(); index++ {
		method := of.Method(index)
		signature := method.Type().(*types.Signature)
		if !method.Exported() {
			return ""
		}
		methods = append(methods, fmt.Sprintf("%s:%d:%d", method.Name(), signature.Params().Len(), signature.Results().Len()))
	}
	sort.Strings(methods)
	return strings.Join(methods, " ")
}

func main() {
	root := os.Args[1]
	files := token.NewFileSet()
	source := importer.ForCompiler(files, "source", nil)
	found := map[string]bool{}
	filepath.Walk(root, func(path string, info os.FileInfo, err error) error {
		if err != nil || !info.IsDir() {
			return err
		}
		name := info.Name()
		if name == "testdata" || name == "internal" || name == "vendor" || path == filepath.Join(root, "cmd") {
			return filepath.SkipDir
		}
		isSource := func(info os.FileInfo) bool { return !strings.HasSuffix(info.Name(), "_test.go") }
		packages, err := parser.ParseDir(files, path, isSource, 0)
		if err != nil {
			return nil
		}
		for name, parsed := range packages {
			if name == "main" {
				continue
			}
			var trees []*ast.File
			for _, tree := range parsed.Files {
				trees = append(trees, tree)
			}
			known := types.Info{Types: map[ast.Expr]types.TypeAndValue{}}
			config := types.Config{Importer: source, Error: func(error) {}, FakeImportC: true}
			config.Check(path, files, trees, &known)
			for _, of := range known.Types {
				written, ok := of.Type.(*types.Interface)
				if ok && written.NumMethods() > 0 {
					found[asked(written)] = true
				}
			}
		}
		return nil
	})
	delete(found, "")
	var lines []string
	for line := range found {
		lines = append(lines, line)
	}
	sort.Strings(lines)
	fmt.Println(strings.Join(lines, "\n"))
}
