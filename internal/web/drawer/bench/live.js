// The live bench: clocks that count down, other screens of the same bench, and what the
// device does for it. What is said and shown comes from the program.
const live = () => document.querySelector("[data-live]");
const wishes = () => JSON.parse(localStorage.getItem("bench wishes") ?? "{}");
let calls = null, due = 0, saying = "", awake = null, pressedAt = 0;

export function listen() {
  practise();
  if (document.querySelector("[data-timers]")) setInterval(tickTimers, 500);
  if (!live()) return;
  hear();
  dress();
  setInterval(tick, 250);
  new MutationObserver(dress).observe(document.body, { childList: true });
  document.addEventListener("change", (e) => {
    const name = e.target.dataset.wish;
    if (!name) return;
    localStorage.setItem("bench wishes", JSON.stringify({ ...wishes(), [name]: e.target.checked }));
    saying = "";
    dress();
  });
  document.addEventListener("pointerup", (e) => { if (wishes().tap && e.target.closest(".liveboard")) document.querySelector(".livekey.main")?.click(); });
  // A finger on a key does not take the space bar away from Done; a tab key does.
  document.addEventListener("click", (e) => { if (e.detail) e.target.closest(".livekey")?.blur(); });
  for (const type of ["pointerdown", "keydown"]) addEventListener(type, () => { held = true; }, true);
  for (const type of ["pointerup", "pointercancel", "keyup"]) addEventListener(type, letGo, true);
  addEventListener("blur", letGo); // the window's own
  document.addEventListener("visibilitychange", () => { if (!document.hidden) { stayAwake(); look(); } });
}

/** A key that is held down counts once, and so does one that is pressed twice at once; one that
    is pressed as the page opens was meant for the page before. */
export function key(e) {
  if (!live() || e.ctrlKey || e.metaKey || e.altKey || !/^[ dw]$/i.test(e.key)) return false;
  if (e.target.closest?.("button, a, input, [popover]") && e.key === " ") return e.repeat;
  const twice = e.repeat || e.timeStamp - pressedAt < 400;
  if (!twice) pressedAt = e.timeStamp;
  return twice;
}

/** Hears when another screen, or the room, has changed something. */
function hear() {
  calls = new EventSource(`${live().dataset.live}/calls`);
  calls.addEventListener("changed", look);
  calls.addEventListener("here", () => gone(false));
  calls.onerror = () => gone(true);
}

function gone(is) {
  const p = document.querySelector("[data-gone]");
  if (p && p.hidden === is) {
    p.hidden = !is;
    if (!is) look(); // there was something to miss
  }
}

let looking = false, held = false, late = false;

/** A key or finger went up: what came meanwhile is shown, once its press has counted. */
function letGo() {
  held = false;
  if (late) setTimeout(look, 60);
  late = false;
}

/** Shows the bench as it is now; not while a key or finger is down, whose press would be lost. */
async function look() {
  if (looking) return void (looking = "again");
  looking = true;
  try {
    const at = live()?.dataset.live;
    if (!at || location.pathname !== at) return;
    const answer = await fetch(at);
    if (!answer.ok) return;
    const page = new DOMParser().parseFromString(await answer.text(), "text/html");
    if (busy() || !page.querySelector("[data-live]")) return;
    if (held) return void (late = true);
    document.title = page.title;
    const focus = document.activeElement?.dataset?.key;
    document.body.replaceChildren(...page.body.childNodes);
    if (focus) document.querySelector(`[data-key="${CSS.escape(focus)}"]`)?.focus({ preventScroll: true });
  } catch {
    gone(true);
  } finally {
    const again = looking === "again";
    looking = false;
    if (again) look();
  }
}

/** Whether something is being typed or chosen that must not be lost. */
const busy = () => document.activeElement?.matches("input, textarea") || document.querySelector("[popover]:popover-open");

/** What every new page of the bench needs. */
function dress() {
  const at = live();
  if (!at || at.dataset.dressed) return;
  at.dataset.dressed = "yes";
  const w = wishes();
  document.documentElement.classList.toggle("contrast", !!w.contrast);
  document.documentElement.classList.toggle("dark", !!w.dark);
  for (const box of document.querySelectorAll("[data-wish]")) box.checked = !!w[box.dataset.wish];
  const wait = +at.dataset.changes;
  due = wait ? Date.now() + Math.max(1000, wait) : 0;
  const says = at.dataset.says;
  if (says !== saying) {
    if (saying || w.speak) tellLoud(says, w);
    saying = says;
  }
  stayAwake();
  tick();
}

function tellLoud(says, w) {
  if (w.sound) chime();
  if (!w.speak || !("speechSynthesis" in window)) return;
  speechSynthesis.cancel();
  speechSynthesis.speak(new SpeechSynthesisUtterance(says));
}

/** A soft sound: two notes that fade. */
function chime() {
  const Audio = window.AudioContext;
  if (!Audio) return;
  const a = new Audio();
  [523, 784].forEach((hz, i) => {
    const note = a.createOscillator(), loud = a.createGain(), from = a.currentTime + i * 0.16;
    note.frequency.value = hz;
    loud.gain.setValueAtTime(0.12, from);
    loud.gain.exponentialRampToValueAtTime(0.0001, from + 0.5);
    note.connect(loud).connect(a.destination);
    note.start(from);
    note.stop(from + 0.5);
  });
  setTimeout(() => a.close(), 1200);
}

/** Timers without a card: they count down, and are looked at again as a stage is over. */
function tickTimers() {
  for (const li of document.querySelectorAll("[data-timers] > li")) {
    li.dataset.skew ??= Date.now() - +li.dataset.now;
    for (const el of li.querySelectorAll("[data-until]")) {
      const left = Math.round((+el.dataset.until + +li.dataset.skew - Date.now()) / 1000);
      el.textContent = spoken(left);
      if (left < 0 && !document.activeElement?.matches("input, select")) return location.reload();
    }
  }
}

const spoken = (left) => (left > 0 ? `${Math.floor(left / 60)}:${String(left % 60).padStart(2, "0")}` : "now");

/** A wash dries before one's eyes, by the shares of water the program has reckoned. */
function practise() {
  const at = document.querySelector("[data-practice]");
  if (!at) return;
  const wet = at.dataset.wet.split(" ").map(Number), began = performance.now();
  const wash = at.querySelector(".wash"), gleam = at.querySelector(".gleam"), field = at.querySelector("[data-at]");
  const draw = (ms) => {
    const w = wet[Math.min(wet.length - 1, Math.floor(ms / 100))], ends = at.dataset.ends.split(" ").map(Number);
    const shine = Math.max(0, 1 - ms / Math.max(1, ends[1])), sheen = ms < ends[2] ? 0.35 * (1 - ms / ends[2]) : 0;
    wash.style.setProperty("--w", w.toFixed(3));
    gleam.style.opacity = Math.min(1, shine * 0.95 + sheen);
  };
  if (at.dataset.result) return draw(+at.dataset.result);
  document.addEventListener("submit", () => { if (field) field.value = Math.round(performance.now() - began); }, true);
  requestAnimationFrame(function frame() {
    if (!at.isConnected) return;
    draw(performance.now() - began);
    requestAnimationFrame(frame);
  });
}

async function stayAwake() {
  try {
    awake ??= await navigator.wakeLock?.request("screen");
    awake?.addEventListener("release", () => (awake = null), { once: true });
  } catch { /* the device decides */ }
}

/** Counts down, by the time that has passed here: the clock of the device need not be right. */
function tick() {
  const at = live();
  if (!at) return;
  at.dataset.skew ??= Date.now() - +(at.dataset.now ?? Date.now());
  for (const el of at.querySelectorAll("[data-until]")) {
    const left = Math.max(0, Math.round((+el.dataset.until + +at.dataset.skew - Date.now()) / 1000));
    el.textContent = spoken(left);
  }
  if (due && Date.now() > due) { due = 0; look(); }
}
