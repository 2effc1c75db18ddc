// The order: looking ahead on the board, and walking the time chart.
import { paint, point, tell } from "./board.js";
import { at as painted } from "./painted.js";

export function listen() {
  document.addEventListener("input", (e) => { if (e.target.matches("[data-ahead]")) { halt(); lookAhead(e.target); } });
  document.addEventListener("click", (e) => { const b = e.target.closest?.("[data-play]"); if (b) play(b); });
}

const halt = () => document.querySelector("[data-play]")?.setAttribute("aria-pressed", "false");

/** Plays the painting from where the slider stands, or from the start, a picture after the
    other: the next is asked for once the last has come. */
async function play(button) {
  if (button.getAttribute("aria-pressed") === "true") return halt();
  const slider = document.querySelector("[data-ahead]"), pictures = 60;
  button.setAttribute("aria-pressed", "true");
  if (+slider.value >= +slider.max) slider.value = 0;
  const by = Math.max(0.5, slider.max / pictures);
  while (button.isConnected && button.getAttribute("aria-pressed") === "true" && +slider.value < +slider.max) {
    slider.value = Math.min(+slider.max, +slider.value + by);
    await Promise.all([lookAhead(slider), new Promise((done) => setTimeout(done, 180))]);
  }
  halt();
}

/** Shows the board as it is at a minute: as paint, and in flat tones each area as its least
    painted cell is, with cells that are ahead of it in colours of their own. */
function lookAhead(slider) {
  const steps = slider.dataset.ahead.split("\n").map((line) => /^(\d+) (\d+) (\d+) (\d+) ([\d ]*)\|(.*)$/.exec(line));
  const at = 60 * slider.value, dry = +slider.value >= +slider.max;
  const begun = steps.filter(([, , , start]) => +start < at || dry), laid = begun.filter(([, , , , end]) => +end <= at || dry);
  const done = new Map(); // washes by cell
  for (const [, , wash, , , cells] of laid) for (const id of cells.split(" ")) done.set(id, +wash);
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
  const last = begun.at(-1), minute = Math.round(slider.value);
  const text = dry ? "All is painted and dry" : !last ? "before the first wash" : `minute ${minute}: ${+last[4] > at ? "at" : "after"} ${last[6]}`;
  slider.setAttribute("aria-valuetext", text);
  tell(text);
  return painted(dry ? "" : `&at=${at}`);
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
