package main

import (
	"crypto/tls"
	"errors"
	"fmt"
	"net"
	"net/http"
	"net/netip"
	"strconv"
	"strings"

	"github.com/spf13/cobra"
)

// address is where the application listens, and by what names it is found.
type address struct {
	listen    string
	names     []string
	cert, key string // of HTTPS, "" for HTTP
	orAny     bool   // another port does where the usual one is taken
	ready     func(url string)
	move      func(path string) // has the studio moved once it is closed; nil where it stays
}

// open listens.
func (at address) open() (net.Listener, error) {
	l, err := net.Listen("tcp", at.listen)
	if err != nil && at.orAny {
		l, err = net.Listen("tcp", "127.0.0.1:0")
	}
	if err != nil {
		return nil, fmt.Errorf("cannot listen on %s: %w; is it running already? Use --addr for another address", at.listen, err)
	}
	return l, nil
}

func serverFlags(c *cobra.Command, at *address, data *string, file string) {
	f := c.Flags()
	f.StringVar(&at.listen, "addr", defaultAddr, "address to listen on; 0.0.0.0:8417 lets others on your network in, with a passphrase")
	f.StringSliceVar(&at.names, "name", nil, "a name of this machine by which it may be asked for, beside localhost")
	f.StringVar(&at.cert, "tls-cert", "", "certificate for HTTPS, a PEM file")
	f.StringVar(&at.key, "tls-key", "", "private key of the certificate, a PEM file")
	f.StringVar(data, "data", dataFile(file), "the studio file; made when it is missing")
}

func (at address) secure() bool { return at.cert != "" }

// check reports what cannot be before anything is opened.
func (at address) check() error {
	if (at.cert == "") != (at.key == "") {
		return errors.New("HTTPS takes both --tls-cert and --tls-key")
	}
	if at.secure() {
		if _, err := tls.LoadX509KeyPair(at.cert, at.key); err != nil {
			return fmt.Errorf("the certificate and its key cannot be used: %w", err)
		}
	}
	return nil
}

// answer serves what comes in, until it is shut down.
func (at address) answer(srv *http.Server, l net.Listener) error {
	if at.secure() {
		return srv.ServeTLS(l, at.cert, at.key)
	}
	return srv.Serve(l)
}

// places are the addresses at which the application is found: from the machine itself,
// and from others.
type places struct{ here, others []string }

// found lists the addresses that work for what is listened on.
func (at address) found(on net.Addr) (out places) {
	ap, err := netip.ParseAddrPort(on.String())
	if err != nil {
		return places{here: []string{at.url(on.String())}}
	}
	port := strconv.Itoa(int(ap.Port()))
	add := func(host string, loopback bool) {
		to := at.url(net.JoinHostPort(host, port))
		if loopback {
			out.here = append(out.here, to)
		} else {
			out.others = append(out.others, to)
		}
	}
	for _, ip := range listening(ap.Addr()) {
		add(ip.String(), ip.IsLoopback())
	}
	for _, name := range at.names {
		add(name, false)
	}
	return out
}

func (at address) url(host string) string {
	if at.secure() {
		return "https://" + host + "/"
	}
	return "http://" + host + "/"
}

// listening are the addresses of this machine that one it listens on stands for.
func listening(on netip.Addr) (out []netip.Addr) {
	if !on.IsUnspecified() {
		return []netip.Addr{on}
	}
	out = []netip.Addr{netip.AddrFrom4([4]byte{127, 0, 0, 1})}
	all, err := net.InterfaceAddrs()
	if err != nil {
		return out
	}
	for _, a := range all {
		p, err := netip.ParsePrefix(a.String())
		if err == nil && !p.Addr().IsLoopback() && !p.Addr().IsLinkLocalUnicast() && (p.Addr().Is4() || on.Is6()) {
			out = append(out, p.Addr())
		}
	}
	return out
}

// words say where the application is found; given is the passphrase that was made up, ""
// when the maker has set one.
func (p places) words(given string) string {
	var b strings.Builder
	if len(p.here) > 0 {
		fmt.Fprintf(&b, "Chromaqua is open at %s\n", strings.Join(p.here, " and "))
	}
	if len(p.others) > 0 {
		fmt.Fprintf(&b, "From other devices: %s\n", strings.Join(p.others, " "))
		if given != "" {
			fmt.Fprintf(&b, "They are asked for this passphrase: %s (set one of your own in Settings)\n", given)
		} else {
			b.WriteString("They are asked for the passphrase you set in Settings.\n")
		}
	}
	return b.String()
}
