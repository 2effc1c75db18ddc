//go:build unix

package doctor

import "golang.org/x/sys/unix"

// free is how many bytes a maker may still write to the disk a folder is on.
func free(dir string) (uint64, error) {
	var s unix.Statfs_t
	if err := unix.Statfs(dir, &s); err != nil {
		return 0, err
	}
	return s.Bavail * uint64(s.Bsize), nil
}
