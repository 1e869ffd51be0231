// Package plating computes with plates: here the plating clock, which says when
// every element is needed relative to the moment the last plate is done.
package plating
