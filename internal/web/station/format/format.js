// The Format station: dragging the edges of mats and panel, and moving and
// turning the window over a painted sheet. Only geometry under the pointer is
// computed here; the server says what follows from it.

import { arrows, follow, formOf, inWords, place } from "./board.js";

let send;

const finder = () => document.getElementById("finder");

export function listen(sender) {
  send = sender;
  document.addEventListener("pointerdown", (e) => {
    if (e.button !== 0 || !e.isPrimary) return;
    if (e.target.matches?.(".grip")) dragEdge(e);
    else if (e.target.closest?.(".finderwindow")) dragWindow(e);
  });
}

/** The finest mark of the card's ruler, mm. */
const mark = () => +document.getElementById("work").dataset.mark;

const outwards = { left: [-1, 0], right: [1, 0], top: [0, -1], bottom: [0, 1] };

function dragEdge(e) {
  e.preventDefault();
  const grip = e.target, svg = grip.ownerSVGElement, note = svg.querySelector(".dragged");
  const from = place(e, svg), [ox, oy] = outwards[grip.dataset.side];
  let marks = 0;
  const letGo = () => {
    grip.classList.remove("held");
    grip.style.translate = note.textContent = "";
  };
  grip.classList.add("held");
  follow(e, (ev) => {
    const to = place(ev, svg);
    marks = Math.round(((to.x - from.x) * ox + (to.y - from.y) * oy) / mark());
    grip.style.translate = `${marks * mark() * ox}px ${marks * mark() * oy}px`;
    note.setAttribute("x", to.x);
    note.setAttribute("y", to.y - 4);
    const moved = marks;
    inWords(Math.abs(marks) * mark()).then(([words]) => {
      if (marks === moved && grip.matches(".held")) note.textContent = `${grip.dataset.name} ${marks < 0 ? "in" : "out"} ${words}${ev.shiftKey ? ", all round" : ""}`;
    });
  }, (ev) => {
    letGo();
    if (marks) send(formOf("drag", { ring: grip.dataset.ring, side: grip.dataset.side, marks, all: ev.shiftKey }));
  }, letGo);
}

const now = (s) => [s.dataset.x, s.dataset.y, s.dataset.turn].map(Number);

function show(s, x, y, turn) {
  s.querySelector(".finderwindow").setAttribute("transform", `translate(${x} ${y}) rotate(${turn})`);
  Object.assign(s.dataset, { x, y, turn });
}

/** Drags the window, or turns it by its handle; halves of a degree. */
function dragWindow(e) {
  e.preventDefault();
  const s = finder(), from = place(e, s), [x, y, turn] = now(s), turning = e.target.matches(".turner");
  s.focus({ preventScroll: true });
  follow(e, (ev) => {
    const to = place(ev, s);
    if (turning) show(s, x, y, around(Math.round(Math.atan2(to.x - x, y - to.y) * 360 / Math.PI) / 2));
    else show(s, x + to.x - from.x, y + to.y - from.y, turn);
  }, () => store(s), () => show(s, x, y, turn));
}

const around = (turn) => ((turn + 540) % 360) - 180;

function store(s) {
  const form = document.getElementById("window-form"), [x, y, turn] = now(s);
  const set = (name, value) => { form.elements[name].value = value; };
  set("x", `${x.toFixed(2)} mm`);
  set("y", `${y.toFixed(2)} mm`);
  set("turn", turn);
  send(form);
}

/** Handles a key on the painted sheet; says whether it was one. */
export function key(e) {
  const s = finder(), way = arrows[e.key];
  if (!s || document.activeElement !== s || !way) return false;
  const [x, y, turn] = now(s);
  if (e.shiftKey) show(s, x, y, around(turn + (way[0] || way[1]) * 0.5));
  else show(s, x + way[0] * mark(), y + way[1] * mark(), turn);
  store(s);
  return true;
}
