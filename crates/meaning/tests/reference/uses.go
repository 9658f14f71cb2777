// uses.go LIST: for each file of a list its uses of names, each with where the name is declared, as the language's own parser resolves them.
// Places are bytes from the beginning of the file; a name that nothing in the file declares has -1.
package main

import (
	"bufio"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"os"
)

func declared(object *ast.Object, files *token.FileSet) int {
	if object == nil || !object.Pos().IsValid() {
		return -1
	}
	return files.Position(object.Pos()).Offset
}

func main() {
	list, err := os.Open(os.Args[1])
	if err != nil {
		panic(err)
	}
	out := bufio.NewWriter(os.Stdout)
	defer out.Flush()
	lines := bufio.NewScanner(list)
	for lines.Scan() {
		files := token.NewFileSet()
		file, err := parser.ParseFile(files, lines.Text(), nil, 0)
		if err != nil {
			fmt.Fprintln(out, "error")
			continue
		}
		ast.Inspect(file, func(node ast.Node) bool {
			if name, ok := node.(*ast.Ident); ok && name.Obj != nil && name.Name != "_" && name.Obj.Kind != ast.Lbl {
				fmt.Fprintf(out, "%d:%d ", files.Position(name.Pos()).Offset, declared(name.Obj, files))
			}
			return true
		})
		fmt.Fprint(out, "| ")
		for _, name := range file.Unresolved {
			fmt.Fprintf(out, "%d ", files.Position(name.Pos()).Offset)
		}
		fmt.Fprintln(out)
	}
}
