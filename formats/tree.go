package formats

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"unicode/utf8"
)

type nodeKind int

const (
	nullNode nodeKind = iota
	objectNode
	arrayNode
	stringNode
	numberNode
	boolNode
)

// node is a JSON value that remembers where it stands in the text.
type node struct {
	kind    nodeKind
	offset  int
	text    string
	number  float64
	truth   bool
	members []member
	items   []node
}

type member struct {
	name   string
	offset int
	node   node
}

func (n node) describe() string {
	switch n.kind {
	case objectNode:
		return "an object"
	case arrayNode:
		return "a list"
	case stringNode:
		return fmt.Sprintf("the text %q", short(n.text))
	case numberNode:
		return fmt.Sprintf("the number %v", n.number)
	case boolNode:
		return fmt.Sprintf("%v", n.truth)
	}
	return "nothing"
}

// short is a text as a message quotes it.
func short(text string) string {
	const most = 60
	if utf8.RuneCountInString(text) <= most {
		return text
	}
	return string([]rune(text)[:most]) + "…"
}

// treeError says where the text stops being JSON.
type treeError struct {
	offset int
	text   string
}

// maxDepth is far deeper than any format here nests, maxValues many times what the largest
// diagram holds.
const (
	maxDepth  = 16
	maxValues = 100_000
)

// parseTree reads exactly one JSON value.
func parseTree(data []byte) (node, *treeError) {
	p := treeParser{decoder: json.NewDecoder(bytes.NewReader(data)), data: data}
	n, err := p.value(0)
	if err == nil {
		if _, more := p.decoder.Token(); !errors.Is(more, io.EOF) {
			err = &treeError{int(p.decoder.InputOffset()), "more text after the end of the diagram"}
		}
	}
	return n, err
}

type treeParser struct {
	decoder *json.Decoder
	data    []byte
	// values counts those that were read.
	values int
}

// token reads the next token and where it starts.
func (p *treeParser) token() (json.Token, int, *treeError) {
	start := int(p.decoder.InputOffset())
	for start < len(p.data) && bytes.IndexByte([]byte(" \t\r\n,:"), p.data[start]) >= 0 {
		start++
	}
	t, err := p.decoder.Token()
	var syntax *json.SyntaxError
	switch {
	case err == nil:
		return t, start, nil
	case errors.As(err, &syntax):
		// The decoder counts from its last value; read as a whole the place is the file's.
		if errors.As(json.Unmarshal(p.data, new(any)), &syntax) {
			start = int(syntax.Offset) - 1
		}
		return nil, 0, &treeError{start, syntax.Error()}
	case errors.Is(err, io.EOF), errors.Is(err, io.ErrUnexpectedEOF):
		return nil, 0, &treeError{len(p.data), "the end of the file too early"}
	}
	return nil, 0, &treeError{start, err.Error()}
}

func (p *treeParser) value(depth int) (node, *treeError) {
	t, offset, err := p.token()
	if err != nil {
		return node{}, err
	}
	n := node{offset: offset}
	if p.values++; p.values > maxValues {
		return n, &treeError{offset, "more values than a diagram has"}
	}
	switch v := t.(type) {
	case json.Delim:
		if depth == maxDepth {
			return n, &treeError{offset, "too many brackets within each other"}
		}
		if v == '{' {
			return p.object(n, depth)
		}
		return p.array(n, depth)
	case string:
		n.kind, n.text = stringNode, v
	case float64:
		n.kind, n.number = numberNode, v
	case bool:
		n.kind, n.truth = boolNode, v
	}
	return n, nil
}

func (p *treeParser) object(n node, depth int) (node, *treeError) {
	n.kind = objectNode
	for p.decoder.More() {
		key, offset, err := p.token()
		if err != nil {
			return n, err
		}
		name, _ := key.(string)
		value, err := p.value(depth + 1)
		if err != nil {
			return n, err
		}
		n.members = append(n.members, member{name, offset, value})
	}
	_, _, err := p.token()
	return n, err
}

func (p *treeParser) array(n node, depth int) (node, *treeError) {
	n.kind = arrayNode
	for p.decoder.More() {
		value, err := p.value(depth + 1)
		if err != nil {
			return n, err
		}
		n.items = append(n.items, value)
	}
	_, _, err := p.token()
	return n, err
}
