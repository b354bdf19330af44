// Sentences lists what the program says, by code: told to clients, which core/told has, and to people of the workspace, which stands
// where it is said. It is run from the project's folder, and fails if a code is given to two sentences.
package main

import (
	"encoding/json"
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"log"
	"os"
	"path/filepath"
	"strconv"
	"strings"
)

type list struct {
	Clients map[string]string `json:"clients"`
	People  map[string]string `json:"people"`
}

func main() {
	found := list{map[string]string{}, map[string]string{}}
	for _, root := range []string{"core", "internal"} {
		if err := filepath.WalkDir(root, func(file string, _ fs.DirEntry, err error) error {
			if err != nil || !strings.HasSuffix(file, ".go") || strings.HasSuffix(file, "_test.go") {
				return err
			}
			return found.addFile(file)
		}); err != nil {
			log.Fatal(err)
		}
	}
	out := json.NewEncoder(os.Stdout)
	out.SetEscapeHTML(false)
	out.SetIndent("", "  ")
	if err := out.Encode(found); err != nil {
		log.Fatal(err)
	}
}

func (l list) addFile(file string) error {
	parsed, err := parser.ParseFile(token.NewFileSet(), file, nil, 0)
	if err != nil {
		return err
	}
	ast.Inspect(parsed, func(n ast.Node) bool {
		switch n := n.(type) {
		case *ast.CallExpr:
			if says[name(n.Fun)] {
				l.add(file, l.People, n.Args)
			}
		case *ast.CompositeLit:
			if name(n.Type) == "Pattern" {
				l.add(file, l.Clients, n.Elts)
			}
		}
		return true
	})
	return nil
}

// says is what a code and a sentence are given to.
var says = map[string]bool{"told.Say": true, "told.Error": true, "about": true}

func name(e ast.Expr) string {
	switch e := e.(type) {
	case *ast.Ident:
		return e.Name
	case *ast.SelectorExpr:
		return name(e.X) + "." + e.Sel.Name
	}
	return ""
}

func (l list) add(file string, to map[string]string, args []ast.Expr) {
	if len(args) < 2 {
		return
	}
	code, written := text(args[0])
	sentence, alsoWritten := text(args[1])
	if !written || !alsoWritten {
		return
	}
	for _, known := range []map[string]string{l.Clients, l.People} {
		if was, given := known[code]; given && was != sentence {
			log.Fatalf("%s gives the code %q to\n%s\nbut it is that of\n%s", file, code, sentence, was)
		}
	}
	to[code] = sentence
}

func text(e ast.Expr) (string, bool) {
	literal, is := e.(*ast.BasicLit)
	if !is || literal.Kind != token.STRING {
		return "", false
	}
	value, err := strconv.Unquote(literal.Value)
	return value, err == nil
}
