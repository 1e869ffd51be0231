package signin

import (
	"crypto/rand"
	"crypto/subtle"
	"encoding/base64"
	"fmt"
	"strings"

	"golang.org/x/crypto/argon2"
	"golang.org/x/text/unicode/norm"
)

// Argon2id as RFC 9106 recommends it where memory is short: three passes over 64 MiB, four lanes, a salt of 16 bytes, a tag of 32.
const (
	argonTime, argonMemory, argonLanes, saltBytes, tagBytes = 3, 64 << 10, 4, 16, 32
)

// plain is a secret as it is hashed: the same however a keyboard composes its letters.
func plain(secret string) []byte { return []byte(norm.NFC.String(strings.TrimSpace(secret))) }

// Hash is a secret as it is kept: argon2id with a salt of its own, in the usual form that says its own parameters.
func Hash(secret string) string {
	salt := make([]byte, saltBytes)
	_, _ = rand.Read(salt) // never fails
	tag := argon2.IDKey(plain(secret), salt, argonTime, argonMemory, argonLanes, tagBytes)
	b64 := base64.RawStdEncoding
	return fmt.Sprintf("$argon2id$v=%d$m=%d,t=%d,p=%d$%s$%s", argon2.Version, argonMemory, argonTime, argonLanes, b64.EncodeToString(salt),
		b64.EncodeToString(tag))
}

// Matches reports whether a secret is the one that was kept. It takes as long where nothing was kept, so that nobody learns who has one.
func Matches(kept, secret string) bool {
	there := kept != ""
	if !there {
		kept = nobodys
	}
	var version, memory, passes int
	var lanes uint8
	parts := strings.Split(kept, "$")
	if len(parts) != 6 || parts[1] != "argon2id" {
		return false
	}
	if _, err := fmt.Sscanf(parts[2], "v=%d", &version); err != nil || version != argon2.Version {
		return false
	}
	if _, err := fmt.Sscanf(parts[3], "m=%d,t=%d,p=%d", &memory, &passes, &lanes); err != nil || memory < 1 || passes < 1 || lanes < 1 {
		return false
	}
	b64 := base64.RawStdEncoding
	salt, err := b64.DecodeString(parts[4])
	if err != nil {
		return false
	}
	tag, err := b64.DecodeString(parts[5])
	if err != nil || len(tag) == 0 {
		return false
	}
	is := argon2.IDKey(plain(secret), salt, uint32(passes), uint32(memory), lanes, uint32(len(tag)))
	return subtle.ConstantTimeCompare(is, tag) == 1 && there
}

// nobodys is what is compared where nothing was kept.
var nobodys = fmt.Sprintf("$argon2id$v=%d$m=%d,t=%d,p=%d$%s$%s", argon2.Version, argonMemory, argonTime, argonLanes,
	strings.Repeat("A", 22), strings.Repeat("A", 43))
