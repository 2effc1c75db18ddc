// Choosing cells that are alike, and picking a wanted colour: with the colour field, or
// from a photo that never leaves this machine.
import { chooseMore, current } from "./board.js";

let say;

const target = (el) => document.getElementById(el.dataset.fills);

function take(el, hex) {
  const field = target(el);
  field.value = hex;
  field.form.requestSubmit();
}

export function listen(_, speaker) {
  say = speaker;
  document.addEventListener("change", (e) => {
    if (e.target.matches("input[type=color][data-fills]")) take(e.target, e.target.value);
    if (e.target.matches("[data-photo]") && e.target.files[0]) show(e.target.files[0]);
  });
  document.addEventListener("click", (e) => {
    if (e.target.closest("[data-like]")) like();
    const photo = e.target.closest(".photo");
    if (photo) take(photo, colourAt(photo, e.offsetX, e.offsetY));
  });
}

async function show(file) {
  const photo = document.querySelector(".photo");
  let picture;
  try { picture = await createImageBitmap(file); } catch { return; }
  const k = Math.min(1, 520 / picture.width, 360 / picture.height);
  photo.width = Math.round(picture.width * k);
  photo.height = Math.round(picture.height * k);
  photo.getContext("2d").drawImage(picture, 0, 0, photo.width, photo.height);
  photo.hidden = false;
}

/** The mean of a few pixels, so that grain and noise do not count. */
function colourAt(photo, x, y) {
  const sum = [0, 0, 0], around = photo.getContext("2d").getImageData(Math.max(0, x - 2), Math.max(0, y - 2), 5, 5).data;
  let n = 0;
  for (let i = 0; i < around.length; i += 4) if (around[i + 3]) { n++; for (let k = 0; k < 3; k++) sum[k] += around[i + k]; }
  return "#" + sum.map((v) => Math.round(v / Math.max(1, n)).toString(16).padStart(2, "0")).join("");
}

/** Chooses all cells like the one chosen last. */
async function like() {
  const id = current();
  if (!id) return say("Choose one cell first; then all cells like it can be chosen.");
  const answer = await fetch(`/cards/${document.getElementById("work").dataset.card}/similar?cell=${id}`);
  if (answer.ok) chooseMore(await answer.json());
}
