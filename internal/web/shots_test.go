package web_test

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/internal/demo"
	"chromaqua/internal/web/drawer/guide"
	"chromaqua/internal/web/webtest"
)

// No page has anything axe finds fault with.
func TestAccessibility(t *testing.T) {
	st := webtest.Demo(t)
	long := strings.Repeat("W", card.MaxName)
	st.Post("/cards", "name", long, "unit", "in", "format", "a2", "fold", "side")
	st.Post("/cards", "name", "Everything", "unit", "in", "format", "a7", "fold", "gate")
	for _, change := range [][]string{
		{"edit", "layer-add", "kind", "frame"}, {"edit", "envelope", "envelope", "free"}, {"edit", "stamp", "stamp", "size", "size", "2 x 3"},
		{"edit", "insert", "on", "true"}, {"edit", "painting", "border", "1/8", "tape", "1", "spare", "1/2"}, {"edit", "words", "words", "2 x 1/4"},
	} {
		st.Post("/cards/7/edit", append([]string{"back", "format"}, change...)...)
	}
	for area, name := range map[string]string{"a1": long, "a2": strings.Repeat("ים סוער ", 12)} {
		st.Post("/cards/3/edit", "back", "colour", "edit", "area-name", "area", area, "name", name)
	}
	st.Send("/cards/7/sheet", "wash.png", webtest.GridPNG(t), "width", "12", "back", "format")
	b := webtest.Browse(t, st.URL)
	squaring := regexp.MustCompile(`/cards/4/photo/[0-9a-f]{64}`).FindString(st.Post("/cards/4/photo/practice", "back", "line").Body)
	require.NotEmpty(t, squaring)
	paths := []string{squaring,
		"/", "/new", "/new?piece=5+1/8+x+9", "/new?piece=nonsense", "/nowhere",
		"/?q=nobody", "/?archive=1", "/?deleted=1", "/paper", "/paper?unit=mm", "/shelf", "/library", "/library?q=nobody", "/tests", "/settings", "/settings/doctor", "/settings/pictures", "/settings/changes", "/guide", "/guide/first-card", "/guide/colour", "/cut", "/cut?n-4=6&n-3=4&if=p1", "/cut?n-4=x",
		"/cards/4/colour?area=a5", "/cards/4/colour?area=a5&want=%237a8fc2", "/cards/1/line?image=i3", "/cards/4/ways?from=PB29&to=PG7", "/mixing", "/swatches",
		"/cards/7/format", "/cards/2/format", "/cards/4/rules", "/cards/3/colour?area=a1", "/cards/3/order", "/cards/2/order", "/cards/3/masks?keep=r1&front=0", "/cards/8/masks",
	}
	for _, card := range []string{"4", "5", "5.p1", "6"} { // all there is, pieces, and an empty one
		paths = append(paths, stationsOf(b, card)...)
	}
	for _, size := range [][2]int64{{1280, 800}, {1024, 768}, {768, 1024}, {390, 844}, {640, 330}} {
		t.Run(fmt.Sprintf("%d × %d", size[0], size[1]), func(t *testing.T) {
			t.Parallel()
			b := webtest.Browse(t, st.URL)
			b.Run(chromedp.EmulateViewport(size[0], size[1]))
			for _, path := range paths {
				if size[1] < 500 && !strings.HasPrefix(path, "/cards/4/") {
					continue // twice enlarged with a keyboard on the screen: the stations
				}
				b.Open(path)
				b.Listens() // and has laid out what it draws
				b.Do(`requestAnimationFrame(() => requestAnimationFrame(() => { document.documentElement.dataset.drawn = "yes" }))`)
				b.Waits(`document.documentElement.dataset.drawn`)
				assert.Empty(t, faults(b), path)
				for _, fault := range webtest.Eval[[]string](b, layoutFaults) {
					t.Errorf("%s: %s", path, fault)
				}
			}
		})
	}
}

// layoutFaults finds what a hand or an eye stumbles over: a page wider than the window,
// targets a finger misses, text below 16 px, or 14 for codes and in drawings, and what has the focus under something
// else. Links within text are as high as their line, and what is read out only has no size.
const layoutFaults = `(() => {
	const out = [], name = (e) => (e.getAttribute("aria-label") ?? e.innerText ?? e.name ?? "").trim().slice(0, 30) + " <" + e.tagName.toLowerCase() + " " + (e.className.baseVal ?? e.className) + ">";
	const seen = (e) => e.checkVisibility({ opacityProperty: true, visibilityProperty: true }) && !e.closest(".sr-only, .skip, [popover]:not(:popover-open)");
	if (document.documentElement.scrollWidth > innerWidth) {
		const wide = [...document.querySelectorAll("body *")].filter(e => e.getBoundingClientRect().right > innerWidth + 1 && !e.closest("svg, .scrolls, .chart") && ![...e.children].some(c => c.getBoundingClientRect().right > innerWidth + 1));
		out.push("wider than the window, " + document.documentElement.scrollWidth + ": " + wide.slice(0, 3).map(name).join("; "));
	}
	for (const e of document.querySelectorAll("a[href], button, summary, input:not([type=hidden]), select, textarea")) {
		if (!seen(e)) continue;
		const inText = e.matches(".term") || e.tagName === "A" && getComputedStyle(e).display === "inline";
		const target = e.matches("[type=radio], [type=checkbox]") ? e.closest("label") : e, r = target.getBoundingClientRect();
		if (!inText && r.width && (r.height < 43.5 || r.width < 43.5)) out.push("small: " + name(e) + " " + Math.round(r.width) + "×" + Math.round(r.height));
	}
	const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
	const small = new Set();
	while (texts.nextNode()) {
		const e = texts.currentNode.parentElement;
		if (!texts.currentNode.data.trim() || !seen(e) || e.closest("script, style")) continue;
		const svg = e.closest("svg"), m = svg?.checkVisibility() ? e.getScreenCTM() : null, scale = m ? Math.hypot(m.a, m.b) : 1, px = parseFloat(getComputedStyle(e).fontSize) * scale;
		if (px < (svg || e.closest(".code, .word") ? 13.9 : 15.9)) small.add(px.toFixed(1) + " px: " + e.textContent.trim().slice(0, 20) + " <" + e.tagName + " " + (e.className.baseVal ?? e.className) + ">");
	}
	out.push(...[...small].slice(0, 4));
	const under = [];
	for (const e of document.querySelectorAll("a[href], button, summary, input:not([type=hidden]), select, textarea, [tabindex='0']")) {
		if (!seen(e) || e.disabled) continue;
		e.focus();
		if (document.activeElement !== e) continue;
		const r = (e.matches("[type=radio], [type=checkbox]") ? e.closest("label") ?? e : e).getBoundingClientRect();
		if (r.width < 4 || r.height < 4 || r.height > innerHeight / 2) continue;
		const hit = document.elementFromPoint(r.left + r.width / 2, r.top + Math.min(r.height / 2, 20));
		if (!hit || !(e.contains(hit) || hit.contains(e) || hit.closest("label")?.contains(e))) under.push(name(e) + " under " + (hit ? name(hit) : "nothing"));
	}
	out.push(...under.slice(0, 3).map(u => "hidden focus: " + u));
	scrollTo(0, 0);
	return out;
})()`

// lived is the sample studio with an evening at its bench, and what was made in it.
func lived(t *testing.T) *webtest.Studio {
	st := webtest.Demo(t)
	require.NoError(t, demo.Evening(t.Context(), st.Store))
	require.NoError(t, demo.Made(t.Context(), st.Store))
	return st
}

// TestShots takes the pictures of the documentation when asked to.
func TestShots(t *testing.T) {
	dir := os.Getenv("CHROMAQUA_SHOTS")
	if dir == "" {
		t.Skip("set CHROMAQUA_SHOTS to a folder to take pictures; make shots does")
	}
	require.NoError(t, os.MkdirAll(dir, 0o755))
	st := lived(t)
	b := webtest.Browse(t, st.URL)
	b.Paints()
	shots := map[string]string{
		"cards": "/", "new-card": "/new?piece=5+1/8+x+9", "settings": "/settings", "live-bench": "/bench/1", "paper": "/paper", "library": "/library", "shelf": "/shelf", "tests": "/tests", "cut-sheet": "/cut?n-4=6&n-3=4&if=p1",
		"colourways": "/cards/4/ways?from=PB29&to=PG7",
	}
	for _, path := range stationsOf(b, "4") {
		shots[filepath.Base(path)] = path
	}
	shots["line"], shots["colour"] = "/cards/1/line", "/cards/4/colour?area=a5" // these show more
	shots["mount"], shots["log"] = "/cards/5/mount", "/cards/6/log"             // which have pieces, and a photo
	shots["handwork"], shots["masks"] = "/cards/7/colour", "/cards/3/masks?keep=r1&front=0"
	for name, path := range shots {
		t.Log(path)
		b.Open(path)
		settled(b)
		shot, err := chromedp.Run(b.Ctx, chromedp.CaptureScreenshot())
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(filepath.Join(dir, name+".png"), shot, 0o644))
	}
	assert.True(t, strings.HasPrefix(st.URL, "http://127.0.0.1"))
}

// settled waits until a page is painted, with all its pictures in sight.
func settled(b *webtest.Browser) {
	// Pictures below the window load when they are scrolled to, those of a closed list when it opens.
	b.Waits(`!document.querySelector("[data-reading]") && [...document.images].every(i => i.complete || !i.checkVisibility() || i.getBoundingClientRect().top > innerHeight) && document.fonts.status === "loaded"`)
	b.Waits(`(!document.getElementById("board")?.dataset.painted || document.getElementById("board").dataset.paint === "on") && [...document.querySelectorAll("img[data-painted]")].every(i => i.dataset.shown || i.getBoundingClientRect().top > innerHeight) && (!document.querySelector("[data-now]")?.dataset.asked || document.querySelector("[data-paint=on]"))`)
	b.Run(chromedp.Sleep(700 * time.Millisecond))
}

// The pictures of the guide are of screens that there are; make shots takes them anew.
func TestPicturesOfTheGuide(t *testing.T) {
	if testing.Short() {
		t.Skip("the browser is driven in the full run")
	}
	dir := ""
	if os.Getenv("CHROMAQUA_SHOTS") != "" {
		dir = "drawer/guide/pictures"
	}
	st := lived(t)
	b := webtest.Browse(t, st.URL)
	if dir != "" {
		b.Paints()
	}
	here := ""
	for _, p := range guide.Pictures() {
		if p.Path != here {
			here = p.Path
			b.Open(p.Path)
			b.Listens()
		}
		if dir != "" {
			settled(b)
		}
		const tallest = 860 // px
		b.Waits(fmt.Sprintf(`document.querySelector(%q)`, p.Select))
		box := webtest.Eval[[]float64](b, fmt.Sprintf(`(() => { const all = [...document.querySelectorAll(%q)].map(e => e.getBoundingClientRect()).filter(r => r.width && r.height);
			const x = Math.min(...all.map(r => r.left)), y = Math.min(...all.map(r => r.top)); return [x + scrollX, y + scrollY, Math.max(...all.map(r => r.right)) - x, Math.min(%d, Math.max(...all.map(r => r.bottom)) - y)] })()`, p.Select, tallest))
		require.Len(t, box, 4)
		assert.Greater(t, min(box[2], box[3]), 100.0, "%s shows next to nothing", p.Name)
		if dir == "" {
			continue
		}
		b.Run(shotOf(filepath.Join(dir, p.Name+".webp"), box))
	}
	there, err := filepath.Glob("drawer/guide/pictures/*.webp")
	require.NoError(t, err)
	assert.Len(t, there, len(guide.Pictures()), "make shots takes those that are missing; others are to be removed")
	sum := int64(0)
	for _, p := range guide.Pictures() {
		info, err := os.Stat("drawer/guide/pictures/" + p.Name + ".webp")
		if assert.NoError(t, err) {
			sum += info.Size()
		}
	}
	assert.Less(t, sum, int64(6<<20), "bytes in the program")
}

// shotOf writes a part of the page as a picture.
func shotOf(path string, box []float64) chromedp.Action[chromedp.Void] {
	return func(ctx context.Context, t *chromedp.Target) (chromedp.Void, error) {
		yes, quality, scale := true, int64(82), 1.0
		r, err := cdp.Call(ctx, t, page.CaptureScreenshot, page.CaptureScreenshotParams{
			Format: "webp", Quality: &quality, CaptureBeyondViewport: &yes, Clip: &page.Viewport{X: box[0], Y: box[1], Width: box[2], Height: box[3], Scale: scale},
		})
		if err != nil {
			return chromedp.Void{}, err
		}
		return chromedp.Void{}, os.WriteFile(path, r.Data, 0o644)
	}
}
