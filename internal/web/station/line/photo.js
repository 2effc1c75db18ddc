// Squaring a photo: corners are dragged, or moved with arrows, under a loupe; what comes of
// it is computed by the program.

const svg = () => document.querySelector(".photosvg");
const corners = () => [...svg().querySelectorAll(".corner")];
const zoom = 3;

/** Where a corner is, pixels of the photo. */
const at = (corner) => corner.transform.baseVal.getItem(0).matrix;

/** Puts a corner somewhere, inside the photo. */
function put(corner, x, y) {
  const { width, height } = svg().viewBox.baseVal;
  x = Math.min(width, Math.max(0, x)); y = Math.min(height, Math.max(0, y));
  corner.setAttribute("transform", `translate(${x.toFixed(1)} ${y.toFixed(1)})`);
  corner.setAttribute("aria-valuenow", Math.round(x));
  corner.setAttribute("aria-valuetext", `${Math.round(x)} from the left, ${Math.round(y)} from the top`);
  const all = corners().map(at);
  svg().querySelector("polygon").setAttribute("points", all.map((m) => `${m.e},${m.f}`).join(" "));
  document.querySelectorAll("input[name=corners]").forEach((f) => { f.value = all.map((m) => `${m.e.toFixed(1)} ${m.f.toFixed(1)}`).join(", "); });
}

/** Shows what lies under a corner, larger, on the side of the photo where no hand is. */
function look(corner) {
  const loupe = document.querySelector(".loupe"), box = svg().getBoundingClientRect(), m = at(corner);
  const scale = box.width / svg().viewBox.baseVal.width;
  loupe.hidden = false;
  loupe.classList.toggle("right", m.e * scale < box.width / 2);
  loupe.style.backgroundImage = `url(${svg().dataset.photo})`;
  loupe.style.backgroundSize = `${box.width * zoom}px auto`;
  loupe.style.backgroundPosition = `${loupe.clientWidth / 2 - m.e * scale * zoom}px ${loupe.clientHeight / 2 - m.f * scale * zoom}px`;
}

let waits = 0;

/** Has the program look again, once the hand rests; not while the photo is being laid, which
    the page that comes would call off. */
function again() {
  clearTimeout(waits);
  waits = setTimeout(() => document.querySelector(".saving") ? again() : document.getElementById("corners")?.requestSubmit(), 900);
}

export function listen() {
  document.addEventListener("click", (e) => { if (e.target.closest("a, button")) clearTimeout(waits); }); // it leads elsewhere
  document.addEventListener("pointerdown", (e) => {
    const corner = e.target.closest?.(".corner");
    if (!corner || !e.isPrimary) return;
    e.preventDefault();
    corner.focus({ preventScroll: true });
    corner.setPointerCapture(e.pointerId);
    clearTimeout(waits);
    const over = new AbortController(), signal = over.signal;
    const place = (ev) => new DOMPoint(ev.clientX, ev.clientY).matrixTransform(svg().getScreenCTM().inverse());
    const from = place(e), was = at(corner), off = { x: was.e - from.x, y: was.f - from.y };
    look(corner);
    corner.addEventListener("pointermove", (ev) => { const p = place(ev); put(corner, p.x + off.x, p.y + off.y); look(corner); }, { signal });
    for (const type of ["pointerup", "pointercancel"]) corner.addEventListener(type, () => { over.abort(); document.querySelector(".loupe").hidden = true; again(); }, { signal });
  });
}

const steps = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** Arrows move the corner that has the focus; with Shift by ten pixels. */
export function key(e) {
  const corner = document.activeElement?.closest?.(".corner"), step = steps[e.key];
  if (!corner || !step) return false;
  const far = e.shiftKey ? 10 : 1, m = at(corner);
  put(corner, m.e + far * step[0], m.f + far * step[1]);
  look(corner);
  again();
  return true;
}
