// The order: looking ahead on the board, and walking the time chart.
import { paint, point, tell } from "./board.js";

export function listen() {
  document.addEventListener("input", (e) => { if (e.target.matches("[data-ahead]")) lookAhead(e.target); });
}

/** Shows the board as it is after so many goes: an area as its least painted cell is,
    and cells that are ahead of it in colours of their own. */
function lookAhead(slider) {
  const steps = slider.dataset.ahead.split("\n").map((line) => /^(\d+) (\d+) ([\d ]*)\|(.*)$/.exec(line));
  const done = new Map(); // washes by cell
  for (const [, , wash, cells] of steps.slice(0, +slider.value)) for (const id of cells.split(" ")) done.set(id, +wash);
  for (const g of document.querySelectorAll("[data-layers]")) {
    const layers = g.dataset.layers.split(";"), cells = [...g.querySelectorAll("[data-cell]")];
    const of = (p) => done.get(p.dataset.cell) ?? 0, least = Math.min(...cells.map(of));
    paint(g.dataset.number, layers[least]);
    for (const p of cells) {
      const ahead = of(p) > least;
      p.classList.toggle("ahead", ahead);
      if (ahead) layers[of(p)].split(" ").slice(0, 3).forEach((c, i) => p.style.setProperty(["--dry", "--wet", "--grey"][i], c)); else p.removeAttribute("style");
    }
    for (const trace of g.querySelectorAll(".trace")) trace.style.display = trace.dataset.wash > least ? "none" : "";
  }
  const text = +slider.value ? steps[slider.value - 1][4] : "before the first wash";
  slider.setAttribute("aria-valuetext", text);
  tell(text);
}

/** Arrow keys on the time chart go from bar to bar; what each says is told below the
    board, and its cells are lit. */
export function key(e) {
  const chart = e.target.closest?.(".chart > svg"), by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1, Home: -1e6, End: 1e6 }[e.key];
  if (!chart || !by) return false;
  const bars = [...chart.querySelectorAll(".bar[data-step]")].sort((a, b) => a.dataset.step - b.dataset.step);
  const now = bars.findIndex((b) => b.matches(".here")), next = bars[Math.max(0, Math.min(bars.length - 1, now + by))];
  bars[now]?.classList.remove("here");
  next.classList.add("here");
  point(next);
  return true;
}
