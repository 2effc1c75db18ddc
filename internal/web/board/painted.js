// Paint: washes as they run and dry, drawn by the program, in place of flat tones. The flat
// look is there at once; the painted one takes its place when it has come.

const remembered = "flat look"; // in this browser

/** Whether washes are shown as paint. */
export const paints = () => { try { return localStorage.getItem(remembered) !== "yes"; } catch { return true; } };

let asked = ""; // the address of the picture that is on its way, or there
let tilt = ""; // how far it is held to the light: "", "&tilt=0.5"
let moment = ""; // which moment is shown: "" for dry, "&step=3", "&at=600"

/** Shows the board as paint, where something is painted on it and that is wanted. */
export function show() {
  const board = document.getElementById("board"), image = board?.querySelector(".painted");
  for (const box of document.querySelectorAll("[data-paints]")) box.checked = paints();
  thumbs();
  if (!image) return;
  if (!board.dataset.painted || !paints()) {
    asked = "";
    delete board.dataset.paint;
    return;
  }
  const look = board.dataset.look === "wet" && !moment ? "&look=wet" : "";
  const of = board.dataset.painted + moment + look + tilt;
  if (of === asked && board.dataset.paint) return void came();
  if (of !== asked && !moment) delete board.dataset.paint; // at once; through time the last picture stays until the next is there
  asked = of;
  const room = image.getBoundingClientRect(), mm = +image.getAttribute("width");
  const fine = (room.width * devicePixelRatio) / (mm / 25.4) > 190;
  load(of, image, board, () => { if (fine && !moment) load(`${of}&dpi=300`, image, board); });
}

const came = () => { for (const done of arrived.splice(0)) done(); };

/** Loads a picture of the board and shows it, unless another was asked for meanwhile. */
function load(address, image, board, then) {
  const of = asked, coming = new Image();
  coming.onload = () => {
    if (of !== asked || !board.isConnected) return;
    image.setAttribute("href", address);
    board.dataset.paint = "on";
    came();
    happens();
    then?.();
  };
  coming.onerror = () => { if (of === asked) delete board.dataset.paint; came(); };
  coming.src = address;
}

let turn = 0;

/** Shows the board at another moment: "&step=3" or "&at=600", "" for dry. It waits until
    the hand rests; done once the picture has come, or will not. */
export function at(which) {
  moment = which;
  const board = document.getElementById("board");
  if (!board?.dataset.painted || !paints()) return Promise.resolve();
  clearTimeout(turn);
  return new Promise((done) => {
    turn = setTimeout(() => { arrived.push(done); show(); }, 60);
    setTimeout(done, 4000);
  });
}

const arrived = []; // who waits for the picture

/** What the board shows goes back to dry when another page comes. */
export function fresh() { moment = ""; asked = ""; tilt = ""; }

const waiting = [];
let busy = 0;

/** Small pictures of cards: those in sight are replaced one after the other. */
function thumbs() {
  for (const img of document.querySelectorAll("img[data-painted]")) {
    if (!paints()) {
      if (img.dataset.flat) { img.src = img.dataset.flat; delete img.dataset.flat; }
    } else if (!img.dataset.flat) {
      img.dataset.flat = img.getAttribute("src");
      seen.observe(img);
    }
  }
}

const seen = new IntersectionObserver((all) => {
  for (const { isIntersecting, target } of all) {
    if (!isIntersecting) continue;
    seen.unobserve(target);
    waiting.push(target);
  }
  next();
});

function next() {
  while (busy < 2 && waiting.length) {
    const img = waiting.shift(), coming = new Image();
    if (!img.isConnected || !img.dataset.flat) continue;
    const done = () => { busy--; next(); };
    coming.onload = () => { if (img.dataset.flat) { img.src = coming.src; img.dataset.shown = "painted"; } done(); };
    coming.onerror = done;
    busy++;
    coming.src = img.dataset.painted;
  }
}

/** The piece at the live bench, as it should look now. */
function now() {
  const image = document.querySelector(".liveboard .painted[data-now]"), board = image?.closest("svg");
  if (!image || !paints() || image.dataset.asked) return;
  image.dataset.asked = "yes";
  const coming = new Image();
  coming.onload = () => { image.setAttribute("href", coming.src); board.dataset.paint = "on"; };
  coming.src = image.dataset.now;
}

let looked = ""; // the card whose washes were looked at

/** What happens in the washes that nobody asked for, once they have run: below the
    watch-outs. */
async function happens() {
  const room = document.querySelector("[data-happens]"), board = document.getElementById("board");
  if (!room || !board?.dataset.painted || room.childElementCount) return;
  const of = board.dataset.painted;
  looked = of;
  const answer = await fetch(room.dataset.happens);
  if (!answer.ok || looked !== of || !room.isConnected) return;
  const page = new DOMParser().parseFromString(await answer.text(), "text/html"), found = page.getElementById("happens");
  if (found) room.replaceChildren(found);
}

/** Touches a cell, and says what comes of it. */
async function touch(address) {
  const room = document.querySelector("[data-touched]");
  if (!room) return;
  room.textContent = "It runs and dries…";
  const answer = await fetch(address);
  const page = new DOMParser().parseFromString(await answer.text(), "text/html");
  room.replaceChildren(page.getElementById("touch") ?? page.querySelector(".message") ?? "");
}

/** Where a tap on a cell of the board, at the minute that is shown, or of the live bench, now,
    is told of; "" for a tap that means something else. */
function touching(cell) {
  const live = cell.closest(".liveboard")?.querySelector("[data-now]")?.dataset.now;
  if (live && !JSON.parse(localStorage.getItem("bench wishes") ?? "{}").tap) return `${live.replace("painted.jpg", "touch")}&cell=${cell.dataset.cell}`;
  if (document.querySelector("input[name=tool]:checked")?.value !== "touch") return "";
  const at = /&at=(\d+)/.exec(moment)?.[1] ?? "dry";
  return `/cards/${document.getElementById("work").dataset.card}/touch?cell=${cell.dataset.cell}&at=${at}`;
}

export function listen() {
  show();
  document.addEventListener("click", (e) => {
    const cell = e.target.closest?.("[data-cell]"), address = cell && touching(cell);
    if (address) touch(address);
  });
  now();
  if (document.querySelector("[data-live]")) new MutationObserver(now).observe(document.body, { childList: true });
  document.addEventListener("change", (e) => {
    if (e.target.matches?.("[data-paints]")) {
      try { localStorage.setItem(remembered, e.target.checked ? "" : "yes"); } catch { /* it is as it was next time */ }
      show();
    }
    if (e.target.name === "look") show();
    if (e.target.matches?.("[data-tilts]")) { tilt = +e.target.value ? `&tilt=${e.target.value}` : ""; show(); }
  });
}
