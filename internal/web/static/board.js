// The board: pointing at cells, choosing them, and dragging the line image.
// Only geometry under the pointer is computed here.

let send, say;
let chosen = new Set();
let here = 0; // the cell the arrow keys stand on
let last = 0; // the cell chosen last
let look = "dry";
let held = "move"; // the tool of the Line station
let card = "";

const svg = () => document.querySelector(".boardsvg");
const work = () => document.getElementById("work");
const cell = (id) => document.getElementById(`cell-${id}`);
const station = () => work()?.dataset.station;

/** What has to survive when the page is replaced. */
export function remember() {
  return { more: !!document.querySelector(".watches details[open]"), scroll: scrollY, focused: document.activeElement === svg() };
}

export function restore(kept) {
  if (work()?.dataset.card !== card) { chosen.clear(); here = last = 0; card = work()?.dataset.card; }
  const radio = document.querySelector(`input[name=look][value=${look}]`);
  if (radio) radio.checked = true;
  const b = document.getElementById("board"), hand = document.querySelector(`input[name=tool][value=${held}]`);
  if (b) b.dataset.look = look;
  if (b && hand) { hand.checked = true; b.dataset.tool = held; }
  if (kept?.more) document.querySelector(".watches details")?.setAttribute("open", "");
  if (kept?.focused) svg()?.focus({ preventScroll: true });
  for (const id of chosen) if (!cell(id)) chosen.delete(id);
  draw();
  writeChosen();
}

export function listen(sender, speaker) {
  send = sender; say = speaker;
  card = work()?.dataset.card;
  restore();
  document.addEventListener("change", (e) => {
    if (e.target.name === "tool") { held = e.target.value; document.getElementById("board").dataset.tool = held; }
    if (e.target.name === "look") { look = e.target.value; document.getElementById("board").dataset.look = look; }
    if (e.target.id === "cells") { chosen = parse(e.target.value); draw(); writeChosen(); }
  });
  document.addEventListener("input", (e) => { if (e.target.matches("[data-ahead]")) lookAhead(e.target); });
  for (const type of ["pointerover", "focusin"]) document.addEventListener(type, (e) => point(e.target));
  document.addEventListener("pointerout", (e) => { if (e.target.closest?.("[data-cells], .boardsvg")) lit([]); });
  document.addEventListener("pointerdown", press);
  document.addEventListener("click", (e) => {
    if (e.target.closest("[data-none]")) { chosen.clear(); draw(); writeChosen(); }
    if (e.target.closest("[data-like]")) like();
  });
}

/** Gives a board the colours of another that differs in nothing else. */
export function recolour(now, next) {
  const coloured = ".area, .tone, .trace";
  const to = now.querySelectorAll(coloured);
  next.querySelectorAll(coloured).forEach((el, i) => {
    to[i].setAttribute("style", el.getAttribute("style"));
    if (el.dataset.layers) to[i].dataset.layers = el.dataset.layers;
  });
}

/** The six colours an area is painted in, null when it has no cells; without a gradient
    the thinnest place is as the densest. */
export function coloursOf(number) {
  const area = document.querySelector(`[data-number="${number}"]`), thin = document.querySelector(`#grade-${number} stop[data-thin]`);
  if (!area) return null;
  const of = (el) => ["--dry", "--wet", "--grey"].map((name) => el.style.getPropertyValue(name)), dense = of(area);
  return [...dense, ...(thin ? of(thin) : dense)].join(" ");
}

/** Paints an area in six colours: dry, wet and grey where it is densest, and where it
    is thinnest. */
export function paint(number, colours) {
  const c = colours.split(" "), dense = c.slice(0, 3), thin = c.slice(3);
  const set = (el, of) => ["--dry", "--wet", "--grey"].forEach((name, i) => el?.style.setProperty(name, of[i]));
  set(document.querySelector(`[data-number="${number}"]`), dense);
  for (const stop of document.querySelectorAll(`#grade-${number} stop`)) set(stop, "thin" in stop.dataset ? thin : dense);
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

/** Reads "3, 5, 9-12". */
function parse(text) {
  const out = new Set();
  for (const part of text.split(/[\s,;]+/)) {
    const [, a, b] = /^(\d+)(?:-(\d+))?$/.exec(part) ?? [];
    for (let i = +a; i <= +(b ?? a); i++) if (cell(i)) out.add(i);
  }
  return out;
}

function writeChosen() {
  const ids = [...chosen].sort((a, b) => a - b), runs = [];
  for (const id of ids) {
    const run = runs.at(-1);
    if (run && run[1] === id - 1) run[1] = id; else runs.push([id, id]);
  }
  const text = runs.map(([a, b]) => (a === b ? a : b === a + 1 ? `${a}, ${b}` : `${a}-${b}`)).join(", ");
  const field = document.getElementById("cells");
  if (field) field.value = text;
  for (const f of document.querySelectorAll("input[data-chosen]")) f.value = text;
  for (const p of document.querySelectorAll("[role=option]")) p.setAttribute("aria-selected", chosen.has(+p.dataset.cell));
}

let light = []; // cells a watch-out or step speaks of

function lit(ids) { if (light.length || ids.length) { light = ids; draw(); } }

/** Draws the outlines of what is chosen, lit and stood on, over the line. */
function draw() {
  const layer = document.querySelector(".outlines");
  if (!layer) return;
  layer.replaceChildren();
  const add = (id, kind) => {
    const from = cell(id);
    if (!from) return;
    const p = document.createElementNS("http://www.w3.org/2000/svg", "path");
    p.setAttribute("d", from.getAttribute("d"));
    p.setAttribute("class", kind);
    p.setAttribute("transform", "scale(.01)");
    p.setAttribute("vector-effect", "non-scaling-stroke");
    layer.append(p);
  };
  for (const id of chosen) add(id, "chosen");
  for (const id of light) add(id, "lit");
  if (here && document.activeElement === svg()) add(here, "here");
}

function tell(text) { const r = document.getElementById("readout"); if (r) r.textContent = text; }

function point(el) {
  const p = el.closest?.("[data-cell]");
  if (p) return tell(p.getAttribute("aria-label"));
  const says = el.closest?.("[data-says]"), speaks = el.closest?.("[data-cells]");
  if (says) tell(says.dataset.says);
  if (speaks) return lit(speaks.dataset.cells.split(" ").filter(Boolean).map(Number));
}

function toggle(id, on = !chosen.has(id)) {
  if (on) { chosen.add(id); last = id; } else chosen.delete(id);
}

async function like() {
  const id = last || here;
  if (!id) return say("Choose one cell first; then all cells like it can be chosen.");
  const answer = await fetch(`/cards/${card}/similar?cell=${id}`);
  if (!answer.ok) return;
  for (const n of await answer.json()) chosen.add(n);
  draw(); writeChosen();
  tell(`${chosen.size} cells chosen`);
}

/** Where a pointer event lies on the panel, mm. */
function place(e) {
  const s = svg(), m = s.getScreenCTM().inverse();
  return new DOMPoint(e.clientX, e.clientY).matrixTransform(m);
}

function press(e) {
  const s = svg();
  if (!s || e.button !== 0 || !s.contains(e.target)) return;
  const leak = e.target.closest("[data-leak]");
  if (station() === "colour" || tool() === "choose") pick(e, s);
  else if (leak) closeLeak(leak.dataset.leak);
  else if (tool() === "pen" || tool() === "bare") ink(e, s, tool());
  else if (tool() === "measure") measure(e, s);
  else if (e.target.closest("[data-turn]")) turn(e, s);
  else if (station() === "line" && document.querySelector(".theline")) drag(e, s);
}

/** What the pointer does at the Line station. */
const tool = () => document.querySelector("input[name=tool]:checked")?.value;

/** Presses the button beside the gap, so that there is one way to close it. */
function closeLeak(n) {
  const field = document.querySelector(`.gaps input[name=leak][value="${n}"]`);
  field?.form.requestSubmit(field.form.querySelector("[value=leak-close]"));
}

/** Measures a distance on the board; how long it really is has to be typed. */
function measure(e, s) {
  e.preventDefault();
  s.querySelector(".measured")?.remove();
  const from = place(e), line = document.createElementNS("http://www.w3.org/2000/svg", "line");
  line.setAttribute("class", "measured");
  s.append(line);
  let mm = 0;
  const move = (ev) => {
    const to = place(ev);
    mm = Math.hypot(to.x - from.x, to.y - from.y);
    for (const [k, v] of [["x1", from.x], ["y1", from.y], ["x2", to.x], ["y2", to.y]]) line.setAttribute(k, v);
    tell(work().dataset.unit === "mm" ? `${mm.toFixed(1)} mm` : `${(mm / 25.4).toFixed(2)} in`);
  };
  const up = () => {
    removeEventListener("pointermove", move);
    removeEventListener("pointerup", up);
    const form = document.getElementById("measure-form");
    if (mm < 1 || !form) return line.remove();
    form.elements.now.value = `${mm.toFixed(2)} mm`;
    form.closest("details").open = true;
    form.elements.really.focus();
  };
  addEventListener("pointermove", move);
  addEventListener("pointerup", up);
}

/** Draws a stroke of the pen, or goes round what is kept bare; its points are
    stored when the pointer is lifted. */
function ink(e, s, kind) {
  e.preventDefault();
  const bare = kind === "bare", points = [place(e)];
  const line = document.createElementNS("http://www.w3.org/2000/svg", bare ? "polygon" : "polyline");
  line.setAttribute("class", `${kind}mark`);
  s.append(line);
  const move = (ev) => {
    const p = place(ev), last = points.at(-1);
    if (Math.hypot(p.x - last.x, p.y - last.y) < 0.4 || points.length >= 400) return;
    points.push(p);
    line.setAttribute("points", points.map((q) => `${q.x},${q.y}`).join(" "));
  };
  const up = () => {
    removeEventListener("pointermove", move);
    removeEventListener("pointerup", up);
    if (points.length < (bare ? 3 : 2)) return line.remove();
    const button = document.querySelector(`[name=edit][value=${kind}]`), form = button.form;
    form.elements.points.value = points.map((q) => `${q.x.toFixed(2)} mm x ${q.y.toFixed(2)} mm`).join("; ");
    send(form, button);
  };
  addEventListener("pointermove", move);
  addEventListener("pointerup", up);
}

/** Click chooses one cell, shift-click another, a drag all in its box. */
function pick(e, s) {
  e.preventDefault();
  s.focus({ preventScroll: true });
  const from = place(e), start = e.target.closest("[data-cell]"), box = document.createElementNS("http://www.w3.org/2000/svg", "rect");
  let moved = false;
  const span = (ev) => { const p = place(ev); return { x: Math.min(p.x, from.x), y: Math.min(p.y, from.y), w: Math.abs(p.x - from.x), h: Math.abs(p.y - from.y) }; };
  const move = (ev) => {
    const b = span(ev);
    if (!moved && b.w + b.h < 2) return;
    if (!moved) { box.setAttribute("class", "boxpick"); s.append(box); moved = true; }
    for (const [k, v] of [["x", b.x], ["y", b.y], ["width", b.w], ["height", b.h]]) box.setAttribute(k, v);
  };
  const up = (ev) => {
    removeEventListener("pointermove", move);
    removeEventListener("pointerup", up);
    box.remove();
    const more = ev.shiftKey || ev.ctrlKey || ev.metaKey;
    if (moved) {
      const b = span(ev);
      if (!more) chosen.clear();
      for (const p of s.querySelectorAll("[data-cell]")) {
        const [x, y] = p.dataset.at.split(" ").map(Number);
        if (x >= b.x && x <= b.x + b.w && y >= b.y && y <= b.y + b.h) toggle(+p.dataset.cell, true);
      }
      tell(`${chosen.size} cells chosen`);
    } else if (start) {
      const id = +start.dataset.cell, only = chosen.size === 1 && chosen.has(id);
      if (!more) chosen.clear();
      toggle(id, more ? undefined : !only);
      here = id;
    } else if (!more) chosen.clear();
    draw(); writeChosen();
  };
  addEventListener("pointermove", move);
  addEventListener("pointerup", up);
}

/** The image under a pointer: the one in front whose drawing is hit, or else the
    one that is picked. */
function imageAt(e) {
  const hit = document.elementsFromPoint(e.clientX, e.clientY).filter((el) => el.matches?.(".cover"));
  const covers = [...document.querySelectorAll(".cover")]; // the one in front first
  return covers.find((c) => hit.includes(c)) ?? document.querySelector(".cover.picked");
}

/** A picture of an image, to be dragged or turned over the board. */
function copyOf(cover, s) {
  const [x, y, w, h, turned, mirrored] = cover.dataset.at.split(" ").map(Number);
  const g = document.createElementNS("http://www.w3.org/2000/svg", "g");
  g.setAttribute("class", "carried");
  g.innerHTML = `<image width="${w}" height="${h}" x="${-w / 2}" y="${-h / 2}" preserveAspectRatio="none"/><rect width="${w}" height="${h}" x="${-w / 2}" y="${-h / 2}"/>`;
  g.firstChild.setAttribute("href", cover.dataset.href);
  const lay = (dx, dy, turn) => g.setAttribute("transform", `translate(${x + dx} ${y + dy}) rotate(${turned + turn}) scale(${mirrored} 1)`);
  lay(0, 0, 0);
  s.append(g);
  return { x, y, lay, remove: () => g.remove() };
}

/** Drags an image; on letting go its new place is stored. A click picks it. */
function drag(e, s) {
  e.preventDefault();
  s.focus({ preventScroll: true });
  const cover = imageAt(e), from = place(e);
  if (!cover) return;
  let carried = null;
  const at = (ev) => { const p = place(ev); return [p.x - from.x, p.y - from.y]; };
  const move = (ev) => {
    const [dx, dy] = at(ev);
    if (!carried && Math.hypot(dx, dy) <= 0.3) return;
    carried ??= copyOf(cover, s);
    s.classList.add("carrying");
    carried.lay(dx, dy, 0);
    tell(`${dx >= 0 ? "right" : "left"} ${Math.abs(dx).toFixed(1)} mm, ${dy >= 0 ? "down" : "up"} ${Math.abs(dy).toFixed(1)} mm`);
  };
  const up = (ev) => {
    removeEventListener("pointermove", move);
    removeEventListener("pointerup", up);
    const [dx, dy] = at(ev);
    if (carried) return shift(dx, dy, cover.dataset.image);
    if (!cover.matches(".picked")) document.querySelector(`.onpanel a[href$="image=${cover.dataset.image}"]`)?.click();
  };
  addEventListener("pointermove", move);
  addEventListener("pointerup", up);
}

/** Turns the picked image by its handle. */
function turn(e, s) {
  e.preventDefault();
  const cover = document.querySelector(".cover.picked"), carried = copyOf(cover, s), start = place(e);
  const angle = (p) => (Math.atan2(p.y - carried.y, p.x - carried.x) * 180) / Math.PI;
  let by = 0;
  const move = (ev) => {
    by = ((angle(place(ev)) - angle(start) + 540) % 360) - 180;
    if (ev.shiftKey) by = Math.round(by / 15) * 15;
    s.classList.add("carrying");
    carried.lay(0, 0, by);
    tell(`turned by ${by.toFixed(1)} °`);
  };
  const up = () => {
    removeEventListener("pointermove", move);
    removeEventListener("pointerup", up);
    carried.remove();
    s.classList.remove("carrying");
    if (Math.abs(by) > 0.1) ask("turn", { by: by.toFixed(1) });
  };
  addEventListener("pointermove", move);
  addEventListener("pointerup", up);
}

/** Asks for a change of an image, the picked one unless another is named. */
function ask(edit, values, picked) {
  const form = document.getElementById("place-form").cloneNode(true);
  const set = (name, value) => { const f = document.createElement("input"); f.type = "hidden"; f.name = name; f.value = value; form.append(f); };
  form.querySelector("[name=edit]").value = edit;
  if (picked) form.querySelector("[name=picked]").value = picked;
  for (const [k, v] of Object.entries(values)) set(k, v);
  send(form);
}

/** Moves an image by millimetres: the server adds them to its exact place. */
function shift(dx, dy, picked) {
  ask("shift", { dx: `${dx.toFixed(3)} mm`, dy: `${dy.toFixed(3)} mm` }, picked);
}

const arrows = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** Arrow keys on the time chart go from bar to bar; what each says is told below the
    board, and its cells are lit. */
function walkChart(e) {
  const chart = e.target.closest?.(".chart > svg"), by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1, Home: -1e6, End: 1e6 }[e.key];
  if (!chart || !by) return false;
  const bars = [...chart.querySelectorAll(".bar[data-step]")].sort((a, b) => a.dataset.step - b.dataset.step);
  const now = bars.findIndex((b) => b.matches(".here")), next = bars[Math.max(0, Math.min(bars.length - 1, now + by))];
  bars[now]?.classList.remove("here");
  next.classList.add("here");
  point(next);
  return true;
}

/** Handles a key on the board; says whether it was one. */
export function key(e) {
  if (walkChart(e)) return true;
  if (document.activeElement !== svg()) return false;
  const way = arrows[e.key];
  if (way && e.altKey && station() === "line" && document.getElementById("place-form")) {
    const step = work().dataset.unit === "mm" ? 1 : 25.4 / 16;
    shift(way[0] * step, way[1] * step);
    return true;
  }
  const turns = { "[": -1, "]": 1 }[e.key];
  if (turns && station() === "line" && document.getElementById("place-form")) {
    ask("turn", { by: turns });
    return true;
  }
  if (way && !e.altKey) {
    walk(way);
    return true;
  }
  if ((e.key === " " || e.key === "Enter") && (station() === "colour" || tool() === "choose") && here) {
    toggle(here);
    draw(); writeChosen();
    return true;
  }
  return false;
}

/** Goes to the nearest cell in a direction. */
function walk([dx, dy]) {
  const at = (p) => p.dataset.at.split(" ").map(Number);
  const now = cell(here);
  const [x0, y0] = now ? at(now) : [-1e3 * dx, -1e3 * dy];
  let best = null, least = Infinity;
  for (const p of svg().querySelectorAll("[data-cell]")) {
    const [x, y] = at(p), along = (x - x0) * dx + (y - y0) * dy, across = Math.abs((x - x0) * dy) + Math.abs((y - y0) * dx);
    if (p === now || along <= 0.01) continue;
    const d = along + 2 * across;
    if (d < least) { least = d; best = p; }
  }
  if (!best) return;
  here = +best.dataset.cell;
  svg().setAttribute("aria-activedescendant", best.id);
  tell(best.getAttribute("aria-label"));
  draw();
}
