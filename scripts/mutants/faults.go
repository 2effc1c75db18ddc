package main

import (
	"fmt"
	"go/ast"
	"go/token"
	"os"
	"path/filepath"
	"strconv"

	"golang.org/x/tools/go/packages"
)

// A fault is one small change of a source file.
type fault struct {
	file        string
	where, what string
	offset, end int    // of what is replaced
	with        string // instead
	boundary    bool   // it moves a boundary between floating point numbers
	became      verdict
}

// source is the file with the fault in it.
func (f *fault) source() ([]byte, error) {
	data, err := os.ReadFile(f.file)
	if err != nil {
		return nil, err
	}
	out := append([]byte{}, data[:f.offset]...)
	out = append(out, f.with...)
	return append(out, data[f.end:]...), nil
}

// swapped are the operators a slip of the hand confuses.
var swapped = map[token.Token]token.Token{
	token.LSS: token.LEQ, token.LEQ: token.LSS, token.GTR: token.GEQ, token.GEQ: token.GTR,
	token.EQL: token.NEQ, token.NEQ: token.EQL,
	token.ADD: token.SUB, token.SUB: token.ADD, token.MUL: token.QUO, token.QUO: token.MUL,
	token.LAND: token.LOR, token.LOR: token.LAND,
	token.ADD_ASSIGN: token.SUB_ASSIGN, token.SUB_ASSIGN: token.ADD_ASSIGN,
	token.MUL_ASSIGN: token.QUO_ASSIGN, token.QUO_ASSIGN: token.MUL_ASSIGN,
	token.INC: token.DEC, token.DEC: token.INC, token.BREAK: token.CONTINUE, token.CONTINUE: token.BREAK,
}

// collector gathers the faults of one file.
type collector struct {
	pkg  *packages.Package
	name string
	data []byte
	out  []fault
}

// faultsOf lists every fault that can be put into a package.
func faultsOf(p *packages.Package) (out []fault) {
	for i, f := range p.Syntax {
		name := p.GoFiles[i]
		data, err := os.ReadFile(name)
		if err != nil {
			continue
		}
		c := &collector{pkg: p, name: name, data: data}
		ast.Inspect(f, c.visit)
		out = append(out, c.out...)
	}
	return out
}

// add keeps a fault that replaces what is from pos to end.
func (c *collector) add(pos, end token.Pos, with string, boundary bool) {
	from, to := c.pkg.Fset.Position(pos), c.pkg.Fset.Position(end)
	old := string(c.data[from.Offset:to.Offset])
	if len(old) > 40 {
		old = old[:40] + "…"
	}
	c.out = append(c.out, fault{
		file: c.name, where: fmt.Sprintf("%s:%d", filepath.Base(c.name), from.Line), what: fmt.Sprintf("%s → %s", old, with),
		offset: from.Offset, end: to.Offset, with: with, boundary: boundary,
	})
}

func (c *collector) operator(pos token.Pos, op token.Token, boundary bool) {
	if to, ok := swapped[op]; ok {
		c.add(pos, pos+token.Pos(len(op.String())), to.String(), boundary)
	}
}

func (c *collector) visit(n ast.Node) bool {
	switch n := n.(type) {
	case *ast.GenDecl:
		return n.Tok != token.IMPORT
	case *ast.BinaryExpr:
		c.binary(n)
	case *ast.IncDecStmt:
		c.operator(n.TokPos, n.Tok, false)
	case *ast.AssignStmt:
		c.operator(n.TokPos, n.Tok, false)
	case *ast.BranchStmt:
		if n.Label == nil {
			c.operator(n.TokPos, n.Tok, false)
		}
	case *ast.IfStmt:
		c.add(n.Cond.Pos(), n.Cond.End(), "!("+string(c.text(n.Cond))+")", false)
	case *ast.ExprStmt:
		if _, call := n.X.(*ast.CallExpr); call { // what is only done for its effect is left out
			c.add(n.Pos(), n.End(), "_ = 0", false)
		}
	case *ast.CallExpr:
		if f, ok := n.Fun.(*ast.Ident); ok && (f.Name == "min" || f.Name == "max") {
			c.add(f.Pos(), f.End(), map[string]string{"min": "max", "max": "min"}[f.Name], false)
		}
	case *ast.BasicLit:
		c.literal(n)
	case *ast.Ident:
		if n.Name == "true" || n.Name == "false" {
			c.add(n.Pos(), n.End(), map[string]string{"true": "false", "false": "true"}[n.Name], false)
		}
	}
	return true
}

func (c *collector) binary(n *ast.BinaryExpr) {
	t := c.pkg.TypesInfo.TypeOf(n.X)
	if n.Op == token.ADD && t != nil && t.String() == "string" {
		return // text has no minus
	}
	ordered := n.Op == token.LSS || n.Op == token.LEQ || n.Op == token.GTR || n.Op == token.GEQ
	c.operator(n.OpPos, n.Op, ordered && t != nil && isFloat(t))
}

// literal changes a number by one, or doubles it where it is a fraction.
func (c *collector) literal(n *ast.BasicLit) {
	switch n.Kind {
	case token.INT:
		if v, err := strconv.Atoi(n.Value); err == nil {
			c.add(n.Pos(), n.End(), strconv.Itoa(v+1), false)
		}
	case token.FLOAT:
		if v, err := strconv.ParseFloat(n.Value, 64); err == nil && v != 0 { // twice nothing is no fault
			c.add(n.Pos(), n.End(), "(2*"+n.Value+")", false)
		}
	}
}

func (c *collector) text(n ast.Node) []byte {
	return c.data[c.pkg.Fset.Position(n.Pos()).Offset:c.pkg.Fset.Position(n.End()).Offset]
}
