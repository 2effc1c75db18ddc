package door

import (
	"crypto/pbkdf2"
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/base64"
	"fmt"
	"strings"
)

// How passphrases are kept: PBKDF2 with SHA-256 and a salt each (NIST SP 800-132; rounds
// as OWASP advises for SHA-256).
const (
	minPhrase = 8
	maxPhrase = 200
	rounds    = 600_000
	saltBytes = 16
	keyBytes  = 32
	keptAs    = "pbkdf2-sha256"
)

// sealed is what is kept of a passphrase.
func sealed(phrase string) string {
	salt := make([]byte, saltBytes)
	rand.Read(salt) // never fails
	return fmt.Sprintf("%s$%d$%s$%s", keptAs, rounds, base64.RawStdEncoding.EncodeToString(salt), base64.RawStdEncoding.EncodeToString(key(phrase, salt, rounds)))
}

func key(phrase string, salt []byte, rounds int) []byte {
	k, err := pbkdf2.Key(sha256.New, phrase, salt, rounds, keyBytes)
	if err != nil {
		panic("door: " + err.Error()) // only for a hash that is not approved, or a short salt in that mode
	}
	return k
}

// unseals reports whether a passphrase is the one that was kept so.
func unseals(phrase, kept string) bool {
	part := strings.Split(kept, "$")
	if len(part) != 4 || part[0] != keptAs || len(phrase) > 4*maxPhrase {
		return false
	}
	var n int
	if _, err := fmt.Sscan(part[1], &n); err != nil || n < 1 || n > 10*rounds {
		return false
	}
	salt, err1 := base64.RawStdEncoding.DecodeString(part[2])
	want, err2 := base64.RawStdEncoding.DecodeString(part[3])
	return err1 == nil && err2 == nil && subtle.ConstantTimeCompare(key(phrase, salt, n), want) == 1
}

// letters of a passphrase that is made up: none that is taken for another.
const letters = "abcdefghjkmnpqrstuvwxyz23456789"

// madeUp is a passphrase of sixty bits in four groups of three.
func madeUp() string {
	var b strings.Builder
	for n := range 12 {
		if n > 0 && n%3 == 0 {
			b.WriteByte('-')
		}
		b.WriteByte(letters[below(len(letters))])
	}
	return b.String()
}

// below draws a number below n, at most 256, each as likely.
func below(n int) int {
	one := make([]byte, 1)
	for {
		rand.Read(one) // never fails
		if v := int(one[0]); v < 256/n*n {
			return v % n
		}
	}
}

// tidied is a made-up passphrase however it was typed.
func tidied(phrase string) string {
	return strings.Map(func(r rune) rune {
		if r == '-' || r == ' ' {
			return -1
		}
		return r
	}, strings.ToLower(phrase))
}

func same(a, b string) bool {
	x, y := sha256.Sum256([]byte(a)), sha256.Sum256([]byte(b))
	return subtle.ConstantTimeCompare(x[:], y[:]) == 1
}
