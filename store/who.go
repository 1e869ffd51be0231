package store

import "context"

type whoKey struct{}

// As returns a context in which changes are written down as made by a person, by name.
func As(ctx context.Context, person string) context.Context {
	return context.WithValue(ctx, whoKey{}, person)
}

// Who is who makes the change, "" when nobody said.
func Who(ctx context.Context) string { return whoOf(ctx) }

// whoOf is who makes the change, "" when nobody said.
func whoOf(ctx context.Context) string {
	name, _ := ctx.Value(whoKey{}).(string)
	return name
}
