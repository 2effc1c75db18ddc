// The board: pointing at cells and choosing them. Stations that do more with it listen
// for themselves. Only geometry under the pointer is computed here.

let chosen = new Set();
let here = 0; // the cell the arrow keys stand on
let last = 0; // the cell chosen last
let look = "dry";
let held = ""; // what the pointer does, where it may do several things
let card = "";

export const svg = () => document.querySelector(".boardsvg");
const work = () => document.getElementById("work");
const cell = (id) => document.getElementById(`cell-${id}`);

/** What the pointer does on this board, "" where there is no choice. */
export const tool = () => document.querySelector("input[name=tool]:checked")?.value ?? "";

/** Whether the pointer chooses cells. */
const chooses = () => svg()?.getAttribute("role") === "listbox" || tool() === "choose";

/** What has to survive when the page is replaced. */
export function remember() {
  return { more: !!document.querySelector(".watches details[open]"), scroll: scrollY, focused: document.activeElement === svg() };
}

export function restore(kept) {
  if (work()?.dataset.card !== card) { chosen.clear(); here = last = 0; card = work()?.dataset.card; }
  const radio = document.querySelector(`input[name=look][value=${look}]`);
  if (radio) radio.checked = true;
  const b = document.getElementById("board"), hand = held && document.querySelector(`input[name=tool][value=${held}]`);
  if (b) b.dataset.look = look;
  if (b && hand) { hand.checked = true; b.dataset.tool = held; }
  if (kept?.more) document.querySelector(".watches details")?.setAttribute("open", "");
  if (kept?.focused) svg()?.focus({ preventScroll: true });
  for (const id of chosen) if (!cell(id)) chosen.delete(id);
  draw();
  writeChosen();
}

export function listen() {
  card = work()?.dataset.card;
  restore();
  document.addEventListener("change", (e) => {
    if (e.target.name === "tool") { held = e.target.value; document.getElementById("board").dataset.tool = held; }
    if (e.target.name === "look") { look = e.target.value; document.getElementById("board").dataset.look = look; }
    if (e.target.id === "cells") { chosen = parse(e.target.value); draw(); writeChosen(); }
  });
  for (const type of ["pointerover", "focusin"]) document.addEventListener(type, (e) => point(e.target));
  document.addEventListener("pointerout", (e) => { if (e.target.closest?.("[data-cells], .boardsvg")) lit([]); });
  document.addEventListener("pointerdown", (e) => { if (chooses() && pressed(e)) pick(e, svg()); });
  document.addEventListener("click", (e) => { if (e.target.closest("[data-none]")) { chosen.clear(); draw(); writeChosen(); } });
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

/** Says something below the board. */
export function tell(text) { const r = document.getElementById("readout"); if (r) r.textContent = text; }

/** Lights what an element speaks of, and says what it says. */
export function point(el) {
  const p = el.closest?.("[data-cell]");
  if (p) return tell(p.getAttribute("aria-label"));
  const says = el.closest?.("[data-says]"), speaks = el.closest?.("[data-cells]");
  if (says) tell(says.dataset.says);
  if (speaks) return lit(speaks.dataset.cells.split(" ").filter(Boolean).map(Number));
}

function toggle(id, on = !chosen.has(id)) {
  if (on) { chosen.add(id); last = id; } else chosen.delete(id);
}

/** Where a pointer event lies in a drawing, in its own millimetres. */
export function place(e, on = svg()) {
  return new DOMPoint(e.clientX, e.clientY).matrixTransform(on.getScreenCTM().inverse());
}

/** Follows the pointer until it lets go. */
export function follow(moved, done) {
  const up = (e) => {
    removeEventListener("pointermove", moved);
    removeEventListener("pointerup", up);
    done(e);
  };
  addEventListener("pointermove", moved);
  addEventListener("pointerup", up);
}

/** Whether a pointer goes down on the board. */
export const pressed = (e) => e.button === 0 && !!svg()?.contains(e.target);

/** The cell chosen last, or the one that is stood on; 0 for none. */
export const current = () => last || here;

/** Chooses more cells. */
export function chooseMore(ids) {
  for (const id of ids) chosen.add(id);
  draw(); writeChosen();
  tell(`${chosen.size} cells chosen`);
}

/** Says lengths in the card's ruler; the server words them. What is said last wins. */
let saying = 0;
export async function tellLengths(text, ...mm) {
  const turn = ++saying, words = await inWords(...mm);
  if (turn === saying) tell(text(...words));
}

const known = new Map();

/** Words for lengths, mm. */
export async function inWords(...mm) {
  const unit = work().dataset.unit, key = `${unit} ${mm.map((v) => v.toFixed(2)).join(" ")}`;
  if (known.size > 500) known.clear();
  if (!known.has(key)) {
    const answer = await fetch(`/lengths?${new URLSearchParams([["unit", unit], ...mm.map((v) => ["mm", v.toFixed(4)])])}`);
    known.set(key, await answer.json());
  }
  return known.get(key);
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
  follow(move, (ev) => {
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
  });
}

export const arrows = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** Handles a key on the board; says whether it was one. */
export function key(e) {
  if (document.activeElement !== svg()) return false;
  const way = arrows[e.key];
  if (way && !e.altKey) {
    walk(way);
    return true;
  }
  if ((e.key === " " || e.key === "Enter") && chooses() && here) {
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
