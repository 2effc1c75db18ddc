package web_test

import (
	"bytes"
	"fmt"
	"image/png"
	"net/http"
	"slices"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"chromaqua/core/panel/paneltest"
	"chromaqua/internal/web/webtest"
)

// A change of strength on a panel of 150 cells in 30 areas at 1280 × 800: from the
// click until the board is painted in the new colours, and until the change is stored
// and the rest of the page follows.
func BenchmarkRecolour150Cells(b *testing.B) {
	st := webtest.New(b)
	st.Post("/cards", "name", "Many", "unit", "mm", "format", "a2", "fold", "side")
	var scan bytes.Buffer
	require.NoError(b, png.Encode(&scan, paneltest.Scan(15, 10)))
	a := st.Send("/cards/1/upload", "many.png", scan.Bytes(), "back", "line", "width", "100")
	require.Equal(b, http.StatusOK, a.Status, webtest.Message(a.Body))
	st.Read(1)
	for i := range 30 {
		st.At(b, []string{"edit", "area-new", "cells", fmt.Sprintf("%d-%d", 2+5*i, 6+5*i), "name", fmt.Sprintf("Area %d", i+1)},
			webtest.Dip(fmt.Sprintf("a%d", i+1)), []string{"edit", "wash-add", "area", fmt.Sprintf("a%d", i+1)})
	}
	t := webtest.Browse(b, st.URL)
	t.Open("/cards/1/colour?area=a1")
	t.Listens()
	require.GreaterOrEqual(b, webtest.Eval[int](t, `document.querySelectorAll("path[data-cell]").length`), 150)
	var shown, settled []float64
	for b.Loop() {
		took := webtest.Eval[[]float64](t, `new Promise((done) => {
			const fill = () => document.querySelector('[data-number="1"]').style.getPropertyValue("--dry");
			const painted = (then) => requestAnimationFrame(() => setTimeout(then));
			const before = fill(), begin = performance.now(), since = () => performance.now() - begin;
			const button = document.querySelector("button[name=strength][aria-pressed=false]"), value = button.value;
			button.click();
			const answered = () => document.querySelector("button[name=strength][value='" + value + "']").ariaPressed === "true";
			let first = 0;
			(function look() { fill() === before ? setTimeout(look) : painted(() => { first = since(); wait(); }); })();
			function wait() { answered() ? painted(() => done([first, since()])) : setTimeout(wait); }
		})`, chromedp.EvalAwaitPromise)
		shown, settled = append(shown, took[0]), append(settled, took[1])
	}
	slices.Sort(shown)
	slices.Sort(settled)
	b.ReportMetric(shown[len(shown)/2], "ms/shown")
	b.ReportMetric(settled[len(settled)/2], "ms/stored")
}

func BenchmarkColourPage(b *testing.B) {
	st := webtest.Demo(b)
	st.Read(4)
	for b.Loop() {
		st.Get("/cards/4/colour?area=a5")
	}
}

func BenchmarkOrderPage(b *testing.B) {
	st := webtest.Demo(b)
	st.Read(4)
	for b.Loop() {
		st.Get("/cards/4/order")
	}
}
