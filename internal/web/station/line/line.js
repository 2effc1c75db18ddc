// The line: dragging and turning images, drawing with the pen, measuring. Only geometry
// under the pointer is computed here.
import { arrows, follow, place, pressed, svg, tell, tellLengths, tool } from "./board.js";

let send;

export function listen(sender) {
  send = sender;
  document.addEventListener("pointerdown", (e) => {
    if (!document.querySelector(".station-line") || tool() === "choose" || !pressed(e)) return;
    const leak = e.target.closest("[data-leak]"), s = svg();
    if (leak) closeLeak(leak.dataset.leak);
    else if (tool() === "pen" || tool() === "bare") ink(e, s, tool());
    else if (tool() === "measure") measure(e, s);
    else if (e.target.closest("[data-turn]")) turn(e, s);
    else drag(e, s);
  });
}

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
    tellLengths((words) => words, mm);
  };
  follow(e, move, () => {
    const form = document.getElementById("measure-form");
    if (mm < 1 || !form) return line.remove();
    form.elements.now.value = `${mm.toFixed(2)} mm`;
    form.closest("details").open = true;
    form.elements.really.focus();
  }, () => line.remove());
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
  follow(e, move, () => {
    if (points.length < (bare ? 3 : 2)) return line.remove();
    const button = document.querySelector(`[name=edit][value=${kind}]`), form = button.form;
    form.elements.points.value = points.map((q) => `${q.x.toFixed(2)} mm x ${q.y.toFixed(2)} mm`).join("; ");
    send(form, button);
  }, () => line.remove());
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
    tellLengths((x, y) => `${dx >= 0 ? "right" : "left"} ${x}, ${dy >= 0 ? "down" : "up"} ${y}`, Math.abs(dx), Math.abs(dy));
  };
  follow(e, move, (ev) => {
    const [dx, dy] = at(ev);
    if (carried) return shift(dx, dy, cover.dataset.image);
    if (!cover.matches(".picked")) document.querySelector(`.onpanel a[href$="image=${cover.dataset.image}"]`)?.click();
  }, () => putBack(carried, s));
}

/** Takes a carried image off the board again. */
function putBack(carried, s) {
  carried?.remove();
  s.classList.remove("carrying");
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
  follow(e, move, () => {
    putBack(carried, s);
    if (Math.abs(by) > 0.1) ask("turn", { by: by.toFixed(1) });
  }, () => putBack(carried, s));
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

/** Handles a key on the board; says whether it was one. */
export function key(e) {
  const form = document.getElementById("place-form"), way = arrows[e.key], turns = { "[": -1, "]": 1 }[e.key];
  if (!form || document.activeElement !== svg()) return false;
  if (way && e.altKey) {
    const step = +document.getElementById("work").dataset.nudge;
    shift(way[0] * step, way[1] * step);
    return true;
  }
  if (turns) ask("turn", { by: turns });
  return !!turns;
}
