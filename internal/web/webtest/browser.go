package webtest

import (
	"context"
	"encoding/base64"
	"encoding/json"
	"os"
	"os/exec"
	"strconv"
	"sync"
	"testing"
	"time"

	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// How long what is asked for may take, and how often it is looked whether it is there.
const (
	Eventually = time.Minute // on a busy machine a panel takes ten seconds to read
	Tick       = 50 * time.Millisecond
)

// Browser is a tab of a headless Chromium, with nothing of other tabs in it.
type Browser struct {
	T   testing.TB
	Ctx context.Context
	URL string
}

func chromium(t testing.TB) string {
	for _, name := range []string{"chromium", "chromium-browser"} {
		if path, err := exec.LookPath(name); err == nil {
			return path
		}
	}
	if os.Getenv("CHROMAQUA_TOOLS") == "required" {
		t.Fatal("Chromium is missing; run make tools")
	}
	t.Skip("Chromium is not installed")
	return ""
}

// running is the browser that all tests of a package share.
var running struct {
	once sync.Once
	ctx  context.Context
	stop func()
	err  error
}

func start(path string) {
	dir, err := os.MkdirTemp("", "chromium-*")
	if running.err = err; err != nil {
		return
	}
	alloc, stop := chromedp.NewExecAllocator(context.Background(),
		chromedp.ExecPath(path), chromedp.Headless, chromedp.NoSandbox, chromedp.DisableGPU, chromedp.NoFirstRun,
		chromedp.Flag("disable-quic", true), chromedp.Flag("disable-background-networking", true),
		chromedp.Flag("disable-component-update", true), chromedp.Flag("disable-sync", true), chromedp.Flag("hide-scrollbars", true),
		chromedp.UserDataDir(dir), chromedp.WindowSize(1280, 800), chromedp.WSURLReadTimeout(time.Minute))
	ctx, cancel := chromedp.NewContext(alloc)
	running.ctx = ctx
	running.stop = func() {
		_ = chromedp.Cancel(ctx)
		cancel()
		stop()
		_ = os.RemoveAll(dir)
	}
	running.err = chromedp.Do(ctx)
}

// Main runs the tests of a package that browses, and closes its browser.
func Main(m *testing.M) {
	code := m.Run()
	if running.stop != nil {
		running.stop()
	}
	os.Exit(code)
}

// Browse opens a tab on an application, in a context of its own: nothing is kept from
// one test to the next. Washes are flat until [Browser.Paints]. In short runs, such as that with the race detector, what needs
// a browser is left out.
func Browse(t testing.TB, url string) *Browser {
	if testing.Short() {
		t.Skip("the browser is driven in the full run")
	}
	path := chromium(t)
	running.once.Do(func() { start(path) })
	require.NoError(t, running.err, "starting the browser")
	ctx, cancel := chromedp.NewContext(running.ctx, chromedp.WithNewBrowserContext())
	t.Cleanup(func() { _ = chromedp.Cancel(ctx); cancel() })
	b := &Browser{t, ctx, url}
	b.Run(chromedp.EmulateViewport(1280, 800))
	require.NoError(t, chromedp.Listen(ctx, func(ev any) {
		if e, ok := ev.(*runtime.EventExceptionThrown); ok {
			t.Errorf("script error: %s", e.ExceptionDetails.Text)
		}
	}))
	b.paints("yes")
	return b
}

// Paints shows washes as paint on the pages that are opened from here on. Without it they are
// flat, so that a test need not wait until they have run.
func (b *Browser) Paints() { b.paints("") }

func (b *Browser) paints(flat string) {
	b.Open("/static/icon.svg")
	b.Do(`localStorage.setItem("flat look", "` + flat + `")`)
}

// patience bounds a single step.
const patience = time.Minute

// Run takes steps in the tab.
func (b *Browser) Run(steps ...chromedp.Action[chromedp.Void]) {
	b.T.Helper()
	ctx := b.Ctx
	if len(steps) > 0 && chromedp.FromContext(ctx) != nil && chromedp.FromContext(ctx).Target != nil {
		var cancel context.CancelFunc
		ctx, cancel = context.WithTimeout(ctx, patience)
		defer cancel()
	}
	require.NoError(b.T, chromedp.Do(ctx, steps...))
}

// Open goes to a page.
func (b *Browser) Open(path string) {
	b.T.Helper()
	b.Run(chromedp.Navigate(b.URL + path))
}

// Eval evaluates an expression of JavaScript.
func Eval[T any](b *Browser, js string, opts ...chromedp.EvaluateOption) T {
	b.T.Helper()
	v, err := chromedp.Run(b.Ctx, chromedp.Evaluate[T](js, opts...))
	require.NoError(b.T, err, js)
	return v
}

// Do runs JavaScript for its effect.
func (b *Browser) Do(js string) {
	b.T.Helper()
	Eval[bool](b, "(() => { "+js+"; return true })()")
}

// Sees waits until the page says something.
func (b *Browser) Sees(text string) {
	b.T.Helper()
	b.Waits("document.body.innerText.replace(/\\s+/g,' ').includes(" + quoted(text) + ")")
}

// Waits waits until an expression of JavaScript holds.
func (b *Browser) Waits(js string) {
	b.T.Helper()
	require.Eventually(b.T, func() bool {
		ok, err := chromedp.Run(b.Ctx, chromedp.Evaluate[bool]("!!("+js+")"))
		return err == nil && ok
	}, Eventually, Tick, js)
}

func quoted(s string) string {
	out, err := json.Marshal(s)
	if err != nil {
		panic(err)
	}
	return string(out)
}

// Listens waits until the page's scripts do.
func (b *Browser) Listens() {
	b.T.Helper()
	b.Waits(`"listening" in document.documentElement.dataset && !document.querySelector(".saving")`)
}

// Press clicks the button or link with that text.
func (b *Browser) Press(text string) {
	b.T.Helper()
	b.Listens()
	pressed := `[...document.querySelectorAll("button, a, summary")].find(e => (e.getAttribute("aria-label") ?? e.innerText).replace(/\s+/g, " ").trim() === ` + quoted(text) + `)`
	b.Waits(pressed)
	b.Do(`const e = ` + pressed + `; e.focus(); e.click()`)
}

// TypeIn puts the caret into a field, selects what it holds, and types.
func (b *Browser) TypeIn(selector, text string) {
	b.T.Helper()
	b.Listens()
	b.Waits("document.querySelector(" + quoted(selector) + ")")
	b.Do("const f = document.querySelector(" + quoted(selector) + "); f.focus(); f.select()")
	b.Run(chromedp.KeyEvent(text))
}

// Choose picks an option of a list.
func (b *Browser) Choose(selector, value string) {
	b.T.Helper()
	b.Do("const f = document.querySelector(" + quoted(selector) + "); f.value = " + quoted(value) + "; f.dispatchEvent(new Event('change', {bubbles: true}))")
}

// ChooseFile chooses a file as a maker does; pages that take it at once may change.
func (b *Browser) ChooseFile(selector, name string, data []byte) {
	b.T.Helper()
	b.Listens()
	b.Do("const f = document.querySelector(" + quoted(selector) + "), t = new DataTransfer(); t.items.add(new File([Uint8Array.from(atob('" + base64.StdEncoding.EncodeToString(data) + "'), c => c.charCodeAt(0))], " + quoted(name) + ")); f.files = t.files; f.dispatchEvent(new Event('change', {bubbles: true}))")
}

// Key presses keys.
func (b *Browser) Key(keys string, mods ...chromedp.Modifier) {
	b.T.Helper()
	b.Listens()
	b.Run(chromedp.KeyEvent(keys, chromedp.KeyModifiers(mods...)))
}

// At returns where on the screen a cell's middle lies.
func (b *Browser) At(cell int) (x, y float64) {
	b.T.Helper()
	p := Eval[[]float64](b, `(() => { const c = document.querySelector('[data-cell="`+strconv.Itoa(cell)+`"]'), [x, y] = c.dataset.at.split(" ").map(Number),
		p = new DOMPoint(x, y).matrixTransform(document.querySelector(".boardsvg").getScreenCTM()); return [p.x, p.y] })()`)
	return p[0], p[1]
}

// Middle returns where on the screen the middle of an element lies, scrolled
// into view.
func (b *Browser) Middle(selector string) (x, y float64) {
	b.T.Helper()
	b.Listens()
	p := Eval[[]float64](b, `(() => { const e = document.querySelector(`+quoted(selector)+`); e.scrollIntoView({block: "nearest"});
		const r = e.getBoundingClientRect(); return [r.x + r.width / 2, r.y + r.height / 2] })()`)
	return p[0], p[1]
}

// Click clicks in the middle of a cell.
func (b *Browser) Click(cell int, mods ...chromedp.Modifier) {
	b.T.Helper()
	b.Listens()
	x, y := b.At(cell)
	b.Run(chromedp.MouseClickXY(x, y, chromedp.ButtonModifiers(mods...)))
}

// Drag drags from one place on the screen to another.
func (b *Browser) Drag(x0, y0, x1, y1 float64) {
	b.T.Helper()
	b.Listens()
	b.Run(chromedp.DragAndDropXY(x0, y0, x1, y1))
}

// Hover moves the pointer.
func (b *Browser) Hover(x, y float64) {
	b.T.Helper()
	b.Run(chromedp.MouseEvent(chromedp.MouseMoved, x, y))
}

// Chosen is what stands in the field of chosen cells.
func (b *Browser) Chosen() string {
	b.T.Helper()
	return Eval[string](b, `document.getElementById("cells").value`)
}
