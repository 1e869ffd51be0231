package signin_test

import (
	"encoding/hex"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"golang.org/x/crypto/argon2"

	"jointime/signin"
)

func TestSecretsAreKeptAsHashes(t *testing.T) {
	const phrase = "kale before cabbage"
	a, b := signin.Hash(phrase), signin.Hash(phrase)
	require.NotEqual(t, a, b, "each has a salt of its own")
	require.True(t, strings.HasPrefix(a, "$argon2id$v=19$m=65536,t=3,p=4$"), a)
	require.NotContains(t, a, "kale")
	require.True(t, signin.Matches(a, phrase))
	require.True(t, signin.Matches(a, "  "+phrase+" "), "a blank at an end is nobody's meaning")
	require.False(t, signin.Matches(a, "kale before cabbagE"))
	require.False(t, signin.Matches(a, ""))
	require.True(t, signin.Matches(signin.Hash("crème brûlée!"), "cre\u0300me bru\u0302le\u0301e!"), "however a keyboard composes it")
	for _, kept := range []string{"", "$argon2id$", "plain", strings.Replace(a, "argon2id", "argon2i", 1),
		strings.Replace(a, "v=19", "v=16", 1), strings.Replace(a, "t=3", "t=0", 1), a[:len(a)-50]} {
		require.False(t, signin.Matches(kept, phrase), kept)
		require.False(t, signin.Matches(kept, ""), kept)
	}
}

// The library does what the standard says: the test vector of RFC 9106, section 5.3, needs a secret and associated data, which it does not
// take; this one is of the reference implementation (argon2id, t=2, m=64 MiB, p=1, "password", "somesalt"; from memory).
func TestArgon2idAsPublished(t *testing.T) {
	require.Equal(t, "09316115d5cf24ed5a15a31a3ba326e5cf32edc24702987c02b6566f61913cf7",
		hex.EncodeToString(argon2.IDKey([]byte("password"), []byte("somesalt"), 2, 65536, 1, 32)))
}
