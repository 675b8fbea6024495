// Command bundle puts the areas of the contract under its head, for the generators
// that read one file: bundle DIR > openapi.yaml. DIR holds openapi.yaml, the head,
// and one file an area with paths and schemas of its own.
package main

import (
	"fmt"
	"io"
	"os"
	"path/filepath"

	"go.yaml.in/yaml/v3"
)

func main() {
	if len(os.Args) != 2 {
		fmt.Fprintln(os.Stderr, "usage: bundle DIR")
		os.Exit(2)
	}
	if err := bundle(os.Stdout, os.Args[1]); err != nil {
		fmt.Fprintln(os.Stderr, "bundle the contract:", err)
		os.Exit(1)
	}
}

// area is what an area's file may hold.
type area struct {
	Paths      yaml.Node `yaml:"paths"`
	Components struct {
		Schemas yaml.Node `yaml:"schemas"`
	} `yaml:"components"`
}

// bundle writes the contract in dir. Areas follow each other by name. A path or a
// schema that stands in two of them is an error that names both.
func bundle(w io.Writer, dir string) error {
	var head yaml.Node
	if err := read(filepath.Join(dir, "openapi.yaml"), &head, false); err != nil {
		return err
	}
	root := head.Content[0]
	paths, schemas := put(root, "paths"), put(put(root, "components"), "schemas")
	files, err := filepath.Glob(filepath.Join(dir, "*.yaml"))
	if err != nil {
		return err
	}
	seen := map[string]string{}
	for _, name := range files {
		base := filepath.Base(name)
		if base == "openapi.yaml" {
			continue
		}
		var a area
		if err := read(name, &a, true); err != nil {
			return err
		}
		for kind, part := range map[string][2]*yaml.Node{"path": {paths, &a.Paths}, "schema": {schemas, &a.Components.Schemas}} {
			into, from := part[0], part[1]
			for i := 0; i < len(from.Content); i += 2 {
				key := kind + " " + from.Content[i].Value
				if other, twice := seen[key]; twice {
					return fmt.Errorf("%s stands in %s and in %s", key, other, base)
				}
				seen[key] = base
			}
			into.Content = append(into.Content, from.Content...)
		}
	}
	enc := yaml.NewEncoder(w)
	enc.SetIndent(2)
	if err := enc.Encode(&head); err != nil {
		return err
	}
	return enc.Close()
}

func read(name string, into any, strict bool) error {
	f, err := os.Open(name)
	if err != nil {
		return err
	}
	defer func() { _ = f.Close() }()
	dec := yaml.NewDecoder(f)
	dec.KnownFields(strict)
	if err := dec.Decode(into); err != nil {
		return fmt.Errorf("%s: %w", filepath.Base(name), err)
	}
	return nil
}

// put returns the mapping under a key of a mapping, made where it is not there.
func put(in *yaml.Node, key string) *yaml.Node {
	for i := 0; i < len(in.Content); i += 2 {
		if in.Content[i].Value == key {
			return in.Content[i+1]
		}
	}
	out := &yaml.Node{Kind: yaml.MappingNode}
	in.Content = append(in.Content, &yaml.Node{Kind: yaml.ScalarNode, Value: key}, out)
	return out
}
