// verdicts.go LIST: for each file of a list whether the language's own parser accepts it, and how often each kind of node is in it.
package main

import (
	"bufio"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"sort"
	"strings"
)

func counts(file *ast.File) string {
	found := map[string]int{}
	ast.Inspect(file, func(node ast.Node) bool {
		if node != nil {
			found[strings.TrimPrefix(fmt.Sprintf("%T", node), "*ast.")]++
		}
		return true
	})
	var parts []string
	for name, count := range found {
		parts = append(parts, fmt.Sprintf("%s=%d", name, count))
	}
	sort.Strings(parts)
	return strings.Join(parts, " ")
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
		file, err := parser.ParseFile(token.NewFileSet(), lines.Text(), nil, parser.SkipObjectResolution)
		if err != nil {
			fmt.Fprintf(out, "error %s\n", strings.ReplaceAll(err.Error(), "\n", " "))
		} else {
			fmt.Fprintf(out, "ok %s\n", counts(file))
		}
	}
}
