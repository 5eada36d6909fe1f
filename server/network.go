package server

import (
	"crypto/tls"
	"crypto/x509"
	"fmt"
	"net"
	"strings"
)

// Network tells how the server is reached from other devices. The zero value: not
// at all.
type Network struct {
	// Addresses are what other devices may call this machine, HOST:PORT, the one to
	// type first.
	Addresses []string
	// Listeners take the calls from the network.
	Listeners []net.Listener
	// TLS tells that a certificate of the owner's makes it https.
	TLS bool
}

func (n Network) open() bool { return len(n.Listeners) > 0 }

// URL returns the address to type on another device, "" where there is none.
func (n Network) URL() string {
	switch {
	case !n.open():
		return ""
	case n.TLS:
		return "https://" + n.Addresses[0]
	}
	return "http://" + n.Addresses[0]
}

// ListenOnNetwork listens on an address of this machine, or where that is "" on those in
// its local networks, with https where certificate and key files are named. It returns an
// error, and has closed what it opened, where the certificate cannot be used, an address
// is taken, or the machine has no local address.
func ListenOnNetwork(host, port, certFile, keyFile string) (n Network, err error) {
	defer func() {
		if err != nil {
			for _, l := range n.Listeners {
				_ = l.Close()
			}
		}
	}()
	var config *tls.Config
	if certFile != "" {
		pair, err := tls.LoadX509KeyPair(certFile, keyFile)
		if err != nil {
			return n, fmt.Errorf("the certificate cannot be used: %w", err)
		}
		config = &tls.Config{Certificates: []tls.Certificate{pair}, MinVersion: tls.VersionTLS12}
		n.TLS = true
		if leaf, err := x509.ParseCertificate(pair.Certificate[0]); err == nil {
			for _, name := range leaf.DNSNames {
				if !strings.Contains(name, "*") {
					n.Addresses = append(n.Addresses, net.JoinHostPort(name, port))
				}
			}
		}
	}
	ips := []string{host}
	if host == "" {
		if ips, err = localIPs(); err != nil {
			return n, err
		}
	}
	for _, ip := range ips {
		address := net.JoinHostPort(ip, port)
		l, err := net.Listen("tcp", address)
		if err != nil {
			return n, err
		}
		if config != nil {
			l = tls.NewListener(l, config)
		}
		n.Listeners, n.Addresses = append(n.Listeners, l), append(n.Addresses, address)
	}
	if len(n.Listeners) == 0 {
		return n, fmt.Errorf("this machine has no address in a private network; name one with --lan-addr if it is safe to listen there")
	}
	return n, nil
}

// localIPs returns this machine's IPv4 addresses in local networks. Addresses that
// the whole internet can reach are left out.
func localIPs() ([]string, error) {
	all, err := net.InterfaceAddrs()
	if err != nil {
		return nil, err
	}
	var out []string
	for _, a := range all {
		if n, ok := a.(*net.IPNet); ok && n.IP.To4() != nil && n.IP.IsPrivate() {
			out = append(out, n.IP.String())
		}
	}
	return out, nil
}
