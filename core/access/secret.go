package access

import (
	"strings"

	"jointime/core/kitchen"
)

// How long a PIN and a passphrase are, in characters.
const (
	shortestPIN, longestPIN               = 4, 8
	shortestPassphrase, longestPassphrase = 12, 200
)

// CheckSecret says what is wrong with a PIN (4 to 8 digits that are not guessed first) or, for the chef, with a passphrase (12 characters
// and more). It returns kitchen.Faults at the path "secret".
func CheckSecret(r Role, secret string) error {
	if r == Chef {
		if n := len([]rune(strings.TrimSpace(secret))); n < shortestPassphrase || n > longestPassphrase {
			return kitchen.Faults{kitchen.FaultAt("secret", "access.passphrase", "from", shortestPassphrase, "to", longestPassphrase)}
		}
		return nil
	}
	n := len(secret)
	if n < shortestPIN || n > longestPIN || strings.Trim(secret, "0123456789") != "" {
		return kitchen.Faults{kitchen.FaultAt("secret", "access.pin", "from", shortestPIN, "to", longestPIN)}
	}
	if row(secret) {
		return kitchen.Faults{kitchen.FaultAt("secret", "access.pin-easy")}
	}
	return nil
}

// row reports whether digits are all the same, or count up or down: such are tried first by whoever guesses.
func row(pin string) bool {
	step := int(pin[1]) - int(pin[0])
	if step < -1 || step > 1 {
		return false
	}
	for i := 1; i < len(pin); i++ {
		if int(pin[i])-int(pin[i-1]) != step {
			return false
		}
	}
	return true
}
