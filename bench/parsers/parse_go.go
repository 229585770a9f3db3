// Prints the same as scan_go.cpp by Go's own parser. Files that it refuses are left out, with "X path".
package main

import (
	"bufio"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"sort"
	"strconv"
	"strings"
	"unicode"
)

// The words of an embed directive, as the go command takes them apart (cmd/go/internal/load, go/build).
func words(args string) (list []string) {
	for args = strings.TrimLeftFunc(args, unicode.IsSpace); args != ""; args = strings.TrimLeftFunc(args, unicode.IsSpace) {
		switch args[0] {
		case '`':
			end := strings.Index(args[1:], "`")
			if end < 0 {
				return
			}
			list, args = append(list, args[1:1+end]), args[1+end+1:]
		case '"':
			end := 1
			for end < len(args) && args[end] != '"' {
				if args[end] == '\\' {
					end++
				}
				end++
			}
			if end >= len(args) {
				return
			}
			text, _ := strconv.Unquote(args[:end+1])
			list, args = append(list, text), args[end+1:]
		default:
			end := strings.IndexFunc(args, unicode.IsSpace)
			if end < 0 {
				end = len(args)
			}
			list, args = append(list, args[:end]), args[end:]
		}
	}
	return
}

func main() {
	in := bufio.NewScanner(os.Stdin)
	out := bufio.NewWriter(os.Stdout)
	defer out.Flush()
	for in.Scan() {
		files := token.NewFileSet()
		file, err := parser.ParseFile(files, in.Text(), nil, parser.ParseComments)
		if err != nil {
			fmt.Fprintln(out, "X", in.Text())
			continue
		}
		fmt.Fprintf(out, "F %s\nP %s\n", in.Text(), file.Name.Name)
		for _, each := range file.Imports {
			name := "-"
			if each.Name != nil {
				name = each.Name.Name
			}
			path, _ := strconv.Unquote(each.Path.Value)
			fmt.Fprintln(out, "I", files.Position(each.Path.Pos()).Offset, name, path)
		}
		named := qualifiers(files, file)
		for _, group := range file.Comments {
			for _, comment := range group.List {
				rest := strings.TrimPrefix(comment.Text, "//go:embed")
				at := files.PositionFor(comment.Pos(), false)
				if rest != comment.Text && rest != "" && unicode.IsSpace(rune(rest[0])) && at.Column == 1 {
					for _, word := range words(rest) {
						fmt.Fprintln(out, "E", word)
					}
				}
			}
		}
		for _, line := range named {
			fmt.Fprintln(out, line)
		}
	}
}

// "Q path begin …" for each import without a name: where its last word stands before a dot and names no variable.
func qualifiers(files *token.FileSet, file *ast.File) (lines []string) {
	places := map[string][]int{}
	ast.Inspect(file, func(node ast.Node) bool {
		if selector, ok := node.(*ast.SelectorExpr); ok {
			if name, ok := selector.X.(*ast.Ident); ok && name.Obj == nil {
				places[name.Name] = append(places[name.Name], files.PositionFor(name.Pos(), false).Offset)
			}
		}
		return true
	})
	for _, each := range file.Imports {
		if each.Name != nil {
			continue
		}
		path, _ := strconv.Unquote(each.Path.Value)
		line := "Q " + path
		found := places[path[strings.LastIndex(path, "/")+1:]]
		sort.Ints(found)
		for _, at := range found {
			line += " " + strconv.Itoa(at)
		}
		lines = append(lines, line)
	}
	return
}
