// The board: pointing at cells and choosing them. Stations that do more with it listen
// for themselves. Only geometry under the pointer is computed here.

import { spread } from "./marks.js";
import * as painted from "./painted.js";

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
const chooses = () => (svg()?.getAttribute("role") === "listbox" && !["dark", "touch"].includes(tool())) || tool() === "choose";

/** Lets go of all cells, and shows the whole board. */
export function letGo() {
  chosen.clear();
  if (svg()) stepBack(svg());
  draw(); writeChosen();
}

/** What has to survive when the page is replaced. */
export function remember() {
  return { focused: document.activeElement === svg() };
}

/** Makes words and numbers in a drawing as large as they can be read, however small it is
    drawn. */
function legible(drawing) {
  for (const text of drawing.querySelectorAll("text")) {
    text.dataset.size ??= parseFloat(getComputedStyle(text).fontSize);
    const m = text.getScreenCTM(), scale = m && Math.hypot(m.a, m.b);
    if (scale) text.style.fontSize = `${Math.max(text.dataset.size, readable / scale)}px`;
  }
}

/** Makes what is drawn legible, and the board's margin as wide as its rulers then need. */
function fit() {
  document.querySelectorAll(".layout, .cutsheets svg, .stackfig svg, .pouch svg").forEach(legible);
  const s = svg();
  if (!s || s.dataset.whole) return;
  s.dataset.drawnAt ??= s.getAttribute("viewBox");
  const [x, y, w, h] = s.dataset.drawnAt.split(" ").map(Number), room = s.getBoundingClientRect();
  let scale = Math.min(room.width / w, room.height / h), wider = 0;
  for (let i = 0; i < 3; i++) { // more margin makes it smaller, which asks for more margin
    wider = Math.max(0, 3.6 + (1.3 * readable) / scale + x);
    scale = Math.min(room.width / (w + wider), room.height / (h + wider));
  }
  if (!(scale > 0)) return;
  s.setAttribute("viewBox", `${x - wider} ${y - wider} ${w + wider} ${h + wider}`);
  s.querySelectorAll(".ruler, .front").forEach(legible);
  spread(s, scale, readable, x + w, y + h);
}

const readable = 14; // px

/** The room of the board changes with the window, and with what is told below it. */
const resized = new ResizeObserver(fit);

export function restore(kept) {
  fit();
  resized.disconnect();
  if (svg()) resized.observe(svg());
  if (work()?.dataset.card !== card) { chosen.clear(); here = last = 0; card = work()?.dataset.card; }
  const radio = document.querySelector(`input[name=look][value=${look}]`);
  if (radio) radio.checked = true;
  const b = document.getElementById("board"), hand = held && document.querySelector(`input[name=tool][value=${held}]`);
  if (b) b.dataset.look = look;
  if (b && hand) { hand.checked = true; takeUp(hand); }
  painted.fresh();
  painted.show();
  if (kept?.focused) svg()?.focus({ preventScroll: true });
  for (const id of chosen) if (!cell(id)) chosen.delete(id);
  draw();
  writeChosen();
}

/** Takes up a tool, and tells what it does. */
function takeUp(tool) {
  held = document.getElementById("board").dataset.tool = tool.value;
  if (tool.dataset.does) tell(tool.dataset.does);
}

export function listen() {
  card = work()?.dataset.card;
  restore();
  addEventListener("resize", fit);
  document.fonts.ready.then(fit);
  document.addEventListener("change", (e) => {
    if (e.target.name === "tool") takeUp(e.target);
    if (e.target.name === "look") { look = e.target.value; document.getElementById("board").dataset.look = look; }
    if (e.target.id === "cells") { chosen = parse(e.target.value); draw(); writeChosen(); }
  });
  for (const type of ["pointerover", "focusin"]) document.addEventListener(type, (e) => point(e.target));
  document.addEventListener("pointerout", (e) => { if (e.target.closest?.("[data-cells], .boardsvg")) lit([]); });
  document.addEventListener("pointerdown", (e) => { if (chooses() && pressed(e)) pick(e, svg()); });
  document.addEventListener("click", (e) => { if (e.target.closest("[data-none]")) letGo(); });
}

/** Gives a board the colours of another that differs in nothing else. */
export function recolour(now, next) {
  const [from, to_] = [next, now].map((s) => s.closest(".board"));
  if (from?.dataset.painted) to_.dataset.painted = from.dataset.painted; else delete to_?.dataset.painted;
  const coloured = ".area, .tone, .trace, .stroke";
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
  offerTaking();
}

/** Offers what can be done with chosen cells, and to take those that other areas hold. */
function offerTaking() {
  const form = document.getElementById("pick"), label = form?.querySelector("[data-take]");
  if (!form) return;
  form.classList.toggle("some", chosen.size > 0);
  const held = new Map(), open = form.elements.area?.value;
  for (const id of chosen) {
    const name = cell(id)?.closest("[data-area]")?.dataset;
    if (name && name.area !== open) held.set(name.name, (held.get(name.name) ?? 0) + 1);
  }
  if (!label) return;
  label.hidden = !held.size;
  label.lastElementChild.textContent = `take ${[...held].map(([name, n]) => `${n} from ${name}`).join(", ")}`;
}

let light = [], where = ""; // cells a watch-out or step speaks of, and the place, mm

function lit(ids, at = "") { if (light.length || ids.length) { light = ids; where = at; draw(); } }

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
  if (where) {
    const ring = document.createElementNS("http://www.w3.org/2000/svg", "circle");
    ring.setAttribute("transform", `translate(${where})`);
    ring.setAttribute("r", 2.2);
    layer.append(ring);
  }
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
  if (speaks) return lit(speaks.dataset.cells.split(" ").filter(Boolean).map(Number), speaks.dataset.at);
}

function toggle(id, on = !chosen.has(id)) {
  if (on) { chosen.add(id); last = id; } else chosen.delete(id);
}

/** Where a pointer event lies in a drawing, in its own millimetres. */
export function place(e, on = svg()) {
  return new DOMPoint(e.clientX, e.clientY).matrixTransform(on.getScreenCTM().inverse());
}

/** A form that makes a change of the card with these values. */
export function formOf(edit, values) {
  const form = document.createElement("form");
  form.method = "post";
  form.action = `/cards/${work().dataset.card}/edit`;
  for (const [name, value] of Object.entries({ base: work().dataset.base, back: work().dataset.station, edit, ...values })) {
    const f = document.createElement("input");
    f.type = "hidden"; f.name = name; f.value = value;
    form.append(f);
  }
  return form;
}

/** Follows the pointer that went down until it lets go, then is done. What takes the
    pointer away gives it up: another finger, the system, Escape. */
export function follow(down, moved, done, givenUp) {
  const ours = (e) => e.pointerId === down.pointerId, over = new AbortController();
  const on = (type, act) => addEventListener(type, act, { signal: over.signal, capture: true });
  const end = (how, e) => { over.abort(); how(e); };
  on("pointermove", (e) => ours(e) && moved(e));
  on("pointerup", (e) => ours(e) && end(done, e));
  on("pointercancel", (e) => ours(e) && end(givenUp, e));
  on("pointerdown", (e) => !ours(e) && end(givenUp, e));
  on("keydown", (e) => { if (e.key === "Escape") { e.stopPropagation(); end(givenUp, e); } });
}

/** Whether a pointer goes down on the board, the first of several fingers. */
export const pressed = (e) => e.button === 0 && e.isPrimary && !!svg()?.contains(e.target);

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


/** A tap chooses a cell or lets it go; a drag chooses all whose middle lies in its box, or
    in what it goes round. Where a finger cannot tell cells apart, its tap brings them
    nearer first. */
function pick(e, s) {
  e.preventDefault();
  s.focus({ preventScroll: true });
  const path = [place(e)], start = e.target.closest("[data-cell]"), shape = document.createElementNS("http://www.w3.org/2000/svg", "polygon");
  shape.setAttribute("class", "boxpick");
  const zone = tool() === "zone";
  document.querySelector(".zonedrawn")?.remove();
  const corners = () => {
    const a = path[0], b = path.at(-1);
    return tool() === "lasso" || zone ? path : [a, new DOMPoint(b.x, a.y), b, new DOMPoint(a.x, b.y)];
  };
  follow(e, (ev) => {
    path.push(place(ev));
    if (!shape.isConnected && Math.hypot(path.at(-1).x - path[0].x, path.at(-1).y - path[0].y) < 2) return;
    s.append(shape);
    shape.setAttribute("points", corners().map((p) => `${p.x},${p.y}`).join(" "));
  }, () => {
    const dragged = shape.isConnected;
    if (zone && !dragged && zoneShape() === "dots") return drawn([path[0]]);
    if (dragged && zone) {
      shape.setAttribute("class", "boxpick zonedrawn");
      return drawn(path);
    }
    shape.remove();
    if (dragged) {
      for (const p of s.querySelectorAll("[data-cell]")) if (within(corners(), p.dataset.at.split(" ").map(Number))) toggle(+p.dataset.cell, true);
      tell(`${chosen.size} cells chosen`);
    } else if (e.pointerType === "touch" && bringNearer(s, e)) {
      return;
    } else if (start) {
      here = +start.dataset.cell;
      toggle(here);
    }
    stepBack(s);
    draw(); writeChosen();
  }, () => shape.remove());
}

const zoneShape = () => document.querySelector("#zones select[name=shape]")?.value;

/** Takes down what was drawn as a zone, a point every half millimetre, for its form. A
    stroke comes after those before it, and so does a dot. */
function drawn(path) {
  const field = document.getElementById("zone-points"), kept = [path[0]];
  if (!field) return;
  for (const p of path) if (Math.hypot(p.x - kept.at(-1).x, p.y - kept.at(-1).y) > 0.5) kept.push(p);
  const goesOn = { along: " | ", dots: "; " }[zoneShape()];
  const points = (goesOn === "; " ? kept.slice(0, 1) : kept).map((p) => `${p.x.toFixed(2)} mm x ${p.y.toFixed(2)} mm`).join("; ");
  field.value = goesOn && field.value ? field.value + goesOn + points : points;
  tell(goesOn ? "Drawn: go on, or make the zone" : "Drawn: say how it lies to that line, then make the zone");
}

/** Whether a point lies in a polygon: it is crossed an odd number of times on one side. */
function within(polygon, [x, y]) {
  let inside = false;
  polygon.forEach((a, i) => {
    const b = polygon.at(i - 1);
    if ((a.y > y) !== (b.y > y) && x < a.x + ((y - a.y) / (b.y - a.y)) * (b.x - a.x)) inside = !inside;
  });
  return inside;
}

const fingertip = 44; // px: what is nearer together a finger does not tell apart

/** Brings the cells under a finger nearer, when there are several; says whether it did. */
function bringNearer(s, e) {
  if (s.dataset.whole) return false;
  const under = new Set();
  for (const dx of [-0.4, 0, 0.4]) for (const dy of [-0.4, 0, 0.4]) {
    const at = document.elementFromPoint(e.clientX + dx * fingertip, e.clientY + dy * fingertip)?.closest("[data-cell]");
    if (at) under.add(at);
  }
  const small = [...under].some((p) => { const r = p.getBoundingClientRect(); return Math.min(r.width, r.height) < fingertip; });
  if (under.size < 2 || !small) return false;
  const [x, y, w, h] = s.getAttribute("viewBox").split(" ").map(Number), at = place(e);
  s.dataset.whole = `${x} ${y} ${w} ${h}`;
  s.setAttribute("viewBox", `${at.x - (at.x - x) / 4} ${at.y - (at.y - y) / 4} ${w / 4} ${h / 4}`);
  tell("Nearer: tap the cell that is meant");
  return true;
}

/** Shows the whole board again. */
function stepBack(s) {
  if (!s.dataset.whole) return;
  s.setAttribute("viewBox", s.dataset.whole);
  delete s.dataset.whole;
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
