// The Mount station: parts are dragged about on the picture of the card, or moved with the
// arrow keys. Only geometry under the pointer is computed here.

import { arrows, follow, formOf, inWords, place } from "./board.js";

let send;

const work = () => document.getElementById("work");

export function listen(sender) {
  send = sender;
  document.addEventListener("pointerdown", (e) => {
    const part = e.target.closest?.(".mountpart[data-piece]");
    if (part && e.button === 0 && e.isPrimary) drag(e, part);
  });
}

/** A step of the card's ruler, mm. */
const mark = () => +work().dataset.mark;
const onMark = (mm) => Math.round(mm / mark()) * mark();

/** Where a part lies on what it lies on, when it is moved on the face by so much. */
function onWhat(part, dx, dy) {
  const d = part.dataset, turn = -d.oturn * Math.PI / 180;
  const x = +d.x + dx - d.ox, y = +d.y + dy - d.oy;
  return { x: onMark(x * Math.cos(turn) - y * Math.sin(turn)), y: onMark(x * Math.sin(turn) + y * Math.cos(turn)) };
}

function drag(e, part) {
  e.preventDefault();
  const svg = part.ownerSVGElement, note = svg.querySelector(".dragged"), from = place(e, svg);
  let dx = 0, dy = 0;
  part.focus({ preventScroll: true });
  part.classList.add("held");
  const letGo = () => { part.classList.remove("held"); part.style.translate = note.textContent = ""; };
  follow(e, (ev) => {
    const to = place(ev, svg);
    dx = to.x - from.x; dy = to.y - from.y;
    part.style.translate = `${dx}px ${dy}px`;
    const at = onWhat(part, dx, dy), now = `${at.x} ${at.y}`;
    note.setAttribute("x", to.x); note.setAttribute("y", to.y - 4);
    part.dataset.now = now;
    inWords(Math.abs(at.x), Math.abs(at.y)).then(([x, y]) => {
      if (part.dataset.now === now && part.matches(".held")) note.textContent = `${x} ${at.x < 0 ? "left" : "right"}, ${y} ${at.y < 0 ? "up" : "down"}`;
    });
  }, () => {
    letGo();
    if (Math.hypot(dx, dy) >= mark()) move(part, dx, dy);
  }, letGo);
}

function move(part, dx, dy) {
  const { x, y } = onWhat(part, dx, dy), { piece, nth } = part.dataset;
  send(formOf("part-move", { piece, nth, x: `${x.toFixed(4)} mm`, y: `${y.toFixed(4)} mm` }));
}

export function key(e) {
  const part = e.target.closest?.(".mountpart[data-piece]"), to = arrows[e.key];
  if (!part || !to) return false;
  e.preventDefault();
  const step = Math.max(mark(), +work().dataset.nudge) * (e.shiftKey ? 10 : 1);
  move(part, to[0] * step, to[1] * step);
  return true;
}
