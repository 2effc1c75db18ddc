package shelf_test

import (
	"fmt"
	"strings"

	"chromaqua/core/length"
	"chromaqua/core/shelf"
)

// An ink of the maker's own behaves like one of the shelf, except where it says otherwise.
func ExampleReadCSV() {
	own, err := shelf.ReadCSV(strings.NewReader("what,name,like,air_minutes\nink,Old faithful,permanent,20\n"), length.Inches)
	if err != nil {
		fmt.Println(err)
		return
	}
	ink := own[0].Ink()
	fmt.Println(ink.Name, "is dry after", ink.AirDry)
	// Output:
	// Old faithful is dry after 20m0s
}
