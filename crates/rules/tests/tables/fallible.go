// fallible.go ROOT: the functions of the library below a folder whose last result is an error, a line each: the path of the package, a dot and the name.
package main

import (
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"path/filepath"
	"sort"
	"strings"
)

func fails(function *ast.FuncDecl) bool {
	if function.Recv != nil || !function.Name.IsExported() || function.Type.Results == nil {
		return false
	}
	results := function.Type.Results.List
	last, ok := results[len(results)-1].Type.(*ast.Ident)
	return ok && last.Name == "error"
}

func main() {
	root := os.Args[1]
	found := map[string]bool{}
	filepath.Walk(root, func(path string, info os.FileInfo, err error) error {
		if err != nil {
			return err
		}
		if info.IsDir() {
			name := info.Name()
			if name == "testdata" || name == "internal" || name == "vendor" || path == filepath.Join(root, "cmd") {
				return filepath.SkipDir
			}
			return nil
		}
		if !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return nil
		}
		file, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.SkipObjectResolution)
		if err != nil || file.Name.Name == "main" {
			return nil
		}
		of, _ := filepath.Rel(root, filepath.Dir(path))
		for _, declaration := range file.Decls {
			if function, ok := declaration.(*ast.FuncDecl); ok && fails(function) {
				found[filepath.ToSlash(of)+"."+function.Name.Name] = true
			}
		}
		return nil
	})
	var lines []string
	for line := range found {
		lines = append(lines, line)
	}
	sort.Strings(lines)
	fmt.Println(strings.Join(lines, "\n"))
}
