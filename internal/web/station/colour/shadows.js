// Shadows: the dark of a cell is dragged or tapped, the sun goes round the board, a way drawn
// from one cell into the next says that the first lies in front.
import { follow, formOf, place, svg, tell, tool } from "./board.js";

export function listen(send) {
  document.addEventListener("pointerdown", (e) => {
    const dark = e.target.closest?.(".dark"), sun = e.target.closest?.(".sun");
    const cell = cellAt(e);
    if (tool() !== "dark" || e.button || !(dark || sun || cell)) return;
    e.preventDefault();
    if (sun) moveSun(e, sun, send); else if (dark) moveDark(e, dark, send); else sayFront(e, cell, send);
  });
}

/** The cell under the pointer, "" beside all. */
const cellAt = (e) => document.elementFromPoint(e.clientX, e.clientY)?.closest("[data-cell]")?.dataset.cell ?? "";

/** A way from a cell into its neighbour: it lies in front of it. */
function sayFront(e, cells, send) {
  const other = (ev) => { const at = cellAt(ev); return at === cells ? "" : at; };
  follow(e, (ev) => other(ev) && tell(`Cell ${cells} in front of cell ${other(ev)}`), (ev) => {
    if (other(ev)) send(formOf("front", { cells, other: other(ev), kind: "front" }));
  }, () => {});
}

/** A drag moves the dark of a cell, with that of its like if wished; a tap takes it or does
    without. */
function moveDark(e, dark, send) {
  const from = place(e), start = dark.getAttribute("transform");
  let at = from, moved = false;
  follow(e, (ev) => {
    at = place(ev);
    moved ||= Math.hypot(at.x - from.x, at.y - from.y) > 1;
    if (moved) dark.setAttribute("transform", `translate(${at.x} ${at.y})`);
  }, () => {
    const cell = dark.dataset.darkOf;
    if (moved) return send(formOf("dark-to", { cell, x: at.x.toFixed(2), y: at.y.toFixed(2), alike: !!document.querySelector("[data-alike]")?.checked }));
    send(formOf("darks", { cells: cell, kind: dark.classList.contains("taken") ? "none" : "proposed" }));
  }, () => dark.setAttribute("transform", start));
}

/** The sun snaps to the nearest of its places. */
function moveSun(e, sun, send) {
  const places = [...svg().querySelectorAll("[data-sun-at]")].map((p) => ({ name: p.dataset.sunAt, x: +p.getAttribute("cx"), y: +p.getAttribute("cy") }));
  const start = sun.getAttribute("transform");
  let near = null;
  follow(e, (ev) => {
    const at = place(ev), far = (p) => Math.hypot(p.x - at.x, p.y - at.y);
    near = places.reduce((a, b) => (far(b) < far(a) ? b : a));
    sun.setAttribute("transform", `translate(${near.x} ${near.y})`);
    tell(`Light from ${near.name}`);
  }, () => near && send(formOf("sun", { sun: near.name })), () => sun.setAttribute("transform", start));
}
