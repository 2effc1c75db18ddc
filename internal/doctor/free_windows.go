package doctor

import "golang.org/x/sys/windows"

// free is how many bytes a maker may still write to the disk a folder is on.
func free(dir string) (left uint64, err error) {
	path, err := windows.UTF16PtrFromString(dir)
	if err != nil {
		return 0, err
	}
	return left, windows.GetDiskFreeSpaceEx(path, &left, nil, nil)
}
