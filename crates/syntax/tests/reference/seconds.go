// seconds.go LIST: how many seconds the language's own parser takes for the files of a list, read before.
package main

import (
	"bufio"
	"fmt"
	"go/parser"
	"go/token"
	"os"
	"time"
)

func main() {
	list, err := os.Open(os.Args[1])
	if err != nil {
		panic(err)
	}
	var texts [][]byte
	for lines := bufio.NewScanner(list); lines.Scan(); {
		text, err := os.ReadFile(lines.Text())
		if err != nil {
			panic(err)
		}
		texts = append(texts, text)
	}
	start := time.Now()
	for _, text := range texts {
		// What is refused takes time too.
		_, _ = parser.ParseFile(token.NewFileSet(), "quay.go", text, parser.ParseComments|parser.SkipObjectResolution)
	}
	fmt.Println(time.Since(start).Seconds())
}
