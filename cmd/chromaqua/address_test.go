package main

import (
	"bufio"
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/tls"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/pem"
	"math/big"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The start-up lines name addresses that work, and the passphrase only where it is asked
// for.
func TestWhereItIsFound(t *testing.T) {
	at := func(ip string, port int) net.Addr { return &net.TCPAddr{IP: net.ParseIP(ip), Port: port} }
	p := address{}.found(at("127.0.0.1", 8417))
	assert.Equal(t, places{here: []string{"http://127.0.0.1:8417/"}}, p)
	assert.Equal(t, "Chromaqua is open at http://127.0.0.1:8417/\n", p.words("abc"))
	p = address{names: []string{"easel.local"}, cert: "x"}.found(at("192.168.1.20", 443))
	assert.Equal(t, places{others: []string{"https://192.168.1.20:443/", "https://easel.local:443/"}}, p)
	assert.Contains(t, p.words("abc-def"), "abc-def")
	assert.Contains(t, p.words(""), "you set in Settings")
	p = address{}.found(at("::1", 8417))
	assert.Equal(t, []string{"http://[::1]:8417/"}, p.here)
	p = address{}.found(at("0.0.0.0", 8417))
	assert.Equal(t, []string{"http://127.0.0.1:8417/"}, p.here)
	for _, a := range p.others {
		assert.NotContains(t, a, "0.0.0.0")
		assert.NotContains(t, a, "[", "it listens to IPv4 only")
	}
}

// A certificate of one's own makes it HTTPS; half of what that takes is refused.
func TestHTTPS(t *testing.T) {
	dir := t.TempDir()
	cert, key := filepath.Join(dir, "cert.pem"), filepath.Join(dir, "key.pem")
	pool := x509.NewCertPool()
	pool.AddCert(signed(t, cert, key))
	data := filepath.Join(dir, "studio.db")
	for _, args := range [][]string{{"--tls-cert", cert}, {"--tls-key", key}, {"--tls-cert", cert, "--tls-key", cert}} {
		code, _, errOut := call("", append([]string{"serve", "--data", data, "--addr", freeAddr(t)}, args...)...)
		assert.Equal(t, failed, code)
		assert.Regexp(t, "takes both|cannot be used", errOut)
	}
	addr := freeAddr(t)
	c := exec.Command(os.Args[0], "serve", "--data", data, "--addr", addr, "--tls-cert", cert, "--tls-key", key)
	c.Env = append(os.Environ(), asProgram+"=1")
	out, err := c.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, c.Start())
	t.Cleanup(func() { _ = c.Process.Kill(); _ = c.Wait() })
	line, err := bufio.NewReader(out).ReadString('\n')
	require.NoError(t, err)
	assert.Equal(t, "Chromaqua is open at https://"+addr+"/\n", line)
	browser := http.Client{Transport: &http.Transport{TLSClientConfig: &tls.Config{RootCAs: pool}}}
	var resp *http.Response
	require.Eventually(t, func() bool { resp, err = browser.Get("https://" + addr + "/"); return err == nil }, time.Minute, 20*time.Millisecond)
	resp.Body.Close()
	assert.Equal(t, http.StatusOK, resp.StatusCode)
}

// signed writes a certificate for this machine that vouches for itself.
func signed(t testing.TB, cert, key string) *x509.Certificate {
	priv, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	require.NoError(t, err)
	like := &x509.Certificate{
		SerialNumber: big.NewInt(1), Subject: pkix.Name{CommonName: "easel"}, IPAddresses: []net.IP{net.IPv4(127, 0, 0, 1)},
		NotBefore: time.Now().Add(-time.Hour), NotAfter: time.Now().Add(time.Hour), IsCA: true, BasicConstraintsValid: true, KeyUsage: x509.KeyUsageDigitalSignature | x509.KeyUsageCertSign,
	}
	der, err := x509.CreateCertificate(rand.Reader, like, like, &priv.PublicKey, priv)
	require.NoError(t, err)
	secret, err := x509.MarshalPKCS8PrivateKey(priv)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(cert, pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: der}), 0o600))
	require.NoError(t, os.WriteFile(key, pem.EncodeToMemory(&pem.Block{Type: "PRIVATE KEY", Bytes: secret}), 0o600))
	c, err := x509.ParseCertificate(der)
	require.NoError(t, err)
	return c
}
