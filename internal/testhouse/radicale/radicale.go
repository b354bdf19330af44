// Package radicale starts Radicale for tests, a general CalDAV server that nobody here wrote (Debian package radicale).
package radicale

import (
	"fmt"
	"math/rand/v2"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// Start starts one on loopback, which knows ines with the password light, and returns its address, like http://127.0.0.1:23456, and the
// folder in which she has her collections.
func Start(t testing.TB) (address, collections string) {
	t.Helper()
	program, err := exec.LookPath("radicale")
	require.NoError(t, err, "make test installs it")
	folder, at := t.TempDir(), freeAddress(t)
	require.NoError(t, os.WriteFile(filepath.Join(folder, "users"), []byte("ines:light\n"), 0o600))
	config := fmt.Sprintf("[server]\nhosts = %s\n[auth]\ntype = htpasswd\nhtpasswd_filename = %s/users\nhtpasswd_encryption = plain\ndelay = 0\n[storage]\nfilesystem_folder = %s/data\n[logging]\nlevel = error\n", at, folder, folder)
	require.NoError(t, os.WriteFile(filepath.Join(folder, "config"), []byte(config), 0o600))
	server := exec.Command(program, "--config", filepath.Join(folder, "config"))
	require.NoError(t, server.Start())
	t.Cleanup(func() { _ = server.Process.Kill(); _ = server.Wait() })
	require.Eventually(t, func() bool {
		connection, err := net.Dial("tcp", at)
		if err == nil {
			_ = connection.Close()
		}
		return err == nil
	}, time.Minute, 20*time.Millisecond, "it should answer")
	return "http://" + at, filepath.Join(folder, "data", "collection-root", "ines")
}

// freeAddress is one on loopback where nothing listens. It lies below the ports that Linux gives to whoever asks for any
// (net.ipv4.ip_local_port_range, from 32768 on), so that none of the servers that tests start meanwhile is given it.
func freeAddress(t testing.TB) string {
	for range 100 {
		listener, err := net.Listen("tcp", fmt.Sprintf("127.0.0.1:%d", 20000+rand.IntN(10000)))
		if err != nil {
			continue
		}
		require.NoError(t, listener.Close())
		return listener.Addr().String()
	}
	t.Fatal("no port is free")
	return ""
}
