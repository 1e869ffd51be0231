// Package heat computes how long heating and cooling take, how far a core rises while it rests, how long a plate stays hot, and how
// much a temperature history amounts to. It is plain enough to be told in one sentence, and is corrected by what the kitchen's own
// probes say.
//
// Method: transient conduction with a surface coefficient. In one medium the series solutions for a slab, a long cylinder and a sphere,
// with as many terms as the Fourier number asks for (Incropera & DeWitt, Fundamentals of Heat and Mass Transfer, chapter on transient
// conduction); in several media in turn a finite-volume solution in one dimension on the same shape (Crank–Nicolson). A body between
// those shapes is solved with a fractional exponent of its area. Properties and surface coefficients are from memory, each with its
// range, in one table.
package heat
