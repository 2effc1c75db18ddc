// The pages work as plain forms and links. This module makes them pleasant:
// forms are sent without leaving the page, keys work, and the board listens.
import * as board from "./board.js";

/** What stations and drawers bring along: each may listen and take keys. */
const rooms = await Promise.all(document.documentElement.dataset.scripts.split(" ").map((name) => import(`./${name}`)));

let sending = Promise.resolve();

/** Sends a form and shows the page that comes back. One at a time, so that
    each change builds on the one before. */
function send(form, submitter) {
  const data = dataOf(form, submitter), path = form.isConnected ? formPath(form) : null;
  const becoming = submitter?.dataset.becomes && submitter.closest("[data-becoming]").dataset.becoming;
  const was = becoming && board.coloursOf(becoming);
  if (was) board.paint(becoming, submitter.dataset.becomes);
  sending = sending.then(async () => {
    const work = document.getElementById("work");
    work.classList.add("saving");
    // What waited while another change was made builds on that change.
    if (data.has("base") && work.dataset.base) data.set("base", work.dataset.base);
    const late = setTimeout(() => board.tell("Still at it…"), patience);
    try {
      const answer = await post(form, data, known());
      const html = await answer.text();
      if (answer.ok) {
        if (form.hasAttribute("data-lets-go")) board.letGo();
        show(html, answer.redirected && answer.url);
        announce(form);
      } else if (answer.status === 409) {
        show(html, null);
        offerAgain(form, submitter, data);
      } else {
        if (was) board.paint(becoming, was);
        complain(path, html);
      }
    } catch {
      if (was) board.paint(becoming, was);
      say(gone);
    } finally {
      clearTimeout(late);
      document.getElementById("work")?.classList.remove("saving");
    }
  });
}

/** What a form sends. A field and the button that was pressed may carry the same name; the
    button decides. */
function dataOf(form, submitter) {
  const data = new FormData(form, submitter);
  if (submitter?.name) data.set(submitter.name, submitter.value);
  return data;
}

const post = (form, data, headers = {}) => fetch(form.action, { method: "POST", headers, body: form.enctype === "multipart/form-data" ? data : new URLSearchParams(data) });

const patience = 700; // ms, after which it is said that something takes its time
const silent = "The program does not answer. Start it again; all that was stored is kept.";
const gone = "The program does not answer. What you did last is not stored; start it again, then repeat it.";

/** Says what an edit did, once the page that shows it is there to be read out. */
function announce(form) {
  const { did, undone } = document.getElementById("work").dataset;
  const says = form.action.endsWith("/undo") ? undone && `taken back: ${undone}` : did;
  unsaid = says ? says[0].toUpperCase() + says.slice(1) : "";
  setTimeout(sayWhatWasDone, 60);
}

let unsaid = ""; // what an edit did, while there is no board to say it under

function sayWhatWasDone() {
  if (!unsaid || !document.getElementById("readout")) return;
  board.tell(unsaid);
  unsaid = "";
}

/** Says beside the field why a form was refused; all that was typed or chosen stays. The form
    goes by its name, since the page may have been shown anew meanwhile; one that was made for
    the occasion has none. */
function complain(path, html) {
  const why = new DOMParser().parseFromString(html, "text/html").querySelector(".message[role=alert]")?.textContent.trim();
  if (!why) return show(html, null); // a page of its own says it
  const form = path && formOf(path);
  if (!form) return say(why);
  document.querySelectorAll(".message").forEach((m) => m.remove());
  const field = form.contains(document.activeElement) && document.activeElement.matches("input, select, textarea") ? document.activeElement : null;
  refused = { why, form: path, field: fieldPath(field) };
  sayWhatWasRefused();
}

let refused = null; // why a form of this page was refused, and which

function sayWhatWasRefused() {
  const form = refused && formOf(refused.form), field = form && refused.field && fieldOf(refused.field);
  if (!form) return;
  const p = messageOf(refused.why);
  (field?.closest(".field, label") ?? field ?? form.lastElementChild).after(p);
  field?.setAttribute("aria-invalid", "true");
  p.scrollIntoView({ block: "nearest" });
}

/** Offers to make a change again that lost to another tab, once it is seen what that did. */
function offerAgain(form, submitter, data) {
  const p = document.querySelector(".message");
  if (!p || [...data.values()].some((v) => v instanceof File)) return;
  data.set("base", document.querySelector("input[name=base]")?.value ?? data.get("base"));
  const again = form.cloneNode(false), button = document.createElement("button");
  for (const [name, value] of data) {
    const f = document.createElement("input");
    f.type = "hidden"; f.name = name; f.value = value;
    again.append(f);
  }
  again.removeAttribute("id");
  button.className = "btn btn-small";
  button.textContent = `Do it again: ${(submitter?.getAttribute("aria-label") ?? submitter?.textContent ?? "my change").trim()}`;
  again.append(button);
  p.append(again);
  p.scrollIntoView({ block: "nearest" });
}

function messageOf(text) {
  const p = document.createElement("div");
  p.className = "message";
  p.setAttribute("role", "alert");
  p.textContent = text;
  return p;
}

/** Tells the program which picture this page has, so that it need not send it again. */
function known() {
  const drawn = document.querySelector(".boardsvg")?.dataset.drawn;
  return drawn ? { "Board-Drawn": drawn } : {};
}

/** What came while the page is being left is not shown, which could call the leaving off;
    it is once it turns out that nobody left, as when a file was fetched. */
let leaving = null;

addEventListener("beforeunload", () => {
  leaving = { came: null };
  setTimeout(() => {
    const came = leaving?.came;
    leaving = null;
    if (came) show(...came);
  }, 3000);
});

/** Shows another page in place of this one, keeping focus, scroll and choices. */
function show(html, url) {
  if (leaving) { leaving.came = [html, url]; return; }
  const page = new DOMParser().parseFromString(html, "text/html");
  if (!page.getElementById("work")) return location.reload();
  const focus = fieldPath(document.activeElement);
  const opened = sections("[open]:not([data-once])").map(nameOf);
  const kept = board.remember();
  refused = null;
  document.title = page.title;
  const [now, next] = [document, page].map((d) => d.querySelector(".boardsvg"));
  if (next && "known" in next.dataset && now?.dataset.drawn !== next.dataset.drawn) return location.reload(); // another picture came in between
  if (now?.dataset.drawn && now.dataset.drawn === next?.dataset.drawn) {
    board.recolour(now, next);
    graft(document.body, page.body, now, next);
  } else document.body.replaceChildren(...page.body.childNodes);
  if (url) history.replaceState(null, "", url);
  for (const d of sections("")) if (opened.includes(nameOf(d))) d.open = true;
  restoreFocus(focus);
  board.restore(kept);
  watchReading();
}

/** Sections that open; those that are done with at once close again. */
const sections = (which) => [...document.querySelectorAll("details" + which)];

/** Names a section so that its like is found again: what it says, but for how many. */
const nameOf = (d) => d.id || d.querySelector("summary").textContent.replace(/[\d\s]+/g, " ");

/** Makes one element like another, leaving what it keeps where it is: a picture that
    stays in the page is not laid out again. */
function graft(to, from, keep, like) {
  if (to === keep) return;
  for (const { name } of [...to.attributes]) if (!from.hasAttribute(name)) to.removeAttribute(name);
  for (const { name, value } of from.attributes) if (to.getAttribute(name) !== value) to.setAttribute(name, value);
  const holds = [...to.children].find((el) => el.contains(keep)), alike = [...from.children].find((el) => el.contains(like));
  for (const el of [...to.childNodes]) if (el !== holds) el.remove();
  while (from.firstChild && from.firstChild !== alike) holds.before(from.firstChild);
  while (alike.nextSibling) to.append(alike.nextSibling);
  graft(holds, alike, keep, like);
}

/** The forms of the page but those that are there while something is waited for. */
const forms = () => [...document.querySelectorAll("form:not(.waiting form)")];

/** What a form is called, or does. */
const does = (form) => form.getAttribute("aria-label") ?? `${form.getAttribute("action")} ${form.querySelector("input[name=edit]")?.value ?? ""}`;

/** Names a form so that its like is found again on the next page: by what it does and which of
    those it is; where nothing does that any more, by its place among all. */
function formPath(form) {
  const all = forms(), name = does(form);
  return { does: name, n: all.filter((f) => does(f) === name).indexOf(form), of: all.indexOf(form) };
}

/** The form of this page that is named so. */
function formOf(path) {
  const all = forms();
  return all.filter((f) => does(f) === path.does)[path.n] ?? all[path.of];
}

/** Names an element so that its like is found again. */
function fieldPath(el) {
  if (!el || el === document.body) return null;
  if (el.id) return { id: el.id };
  const form = el.closest("form");
  return form && { form: formPath(form), name: el.name, value: el.tagName === "BUTTON" ? el.value : null };
}

function restoreFocus(f) {
  if (f) fieldOf(f)?.focus({ preventScroll: true });
}

/** The element of this page that is named so. */
function fieldOf(f) {
  const el = f.id && document.getElementById(f.id);
  if (el || !f.form) return el;
  return [...(formOf(f.form)?.elements ?? [])].find((e) => e.name === f.name && (f.value === null || e.value === f.value));
}

/** What was typed or chosen and not sent yet. */
const begun = () => [...document.querySelectorAll("form input:not([type=hidden],[type=radio],[type=checkbox]), form textarea")]
  .filter((el) => (el.type === "file" ? el.files.length : el.value !== el.defaultValue) && el.id !== "cells").map((el) => ({ ...fieldPath(el), value: null, was: el }));

/** Puts into a field of this page what was typed or chosen in its like. */
function begin(b) {
  const el = fieldOf(b);
  if (el?.type === "file") el.files = b.was.files;
  else if (el) el.value = b.was.value;
}

function say(text) {
  const controls = document.querySelector(".controls") ?? document.getElementById("work");
  controls.querySelector(".message")?.remove();
  const p = messageOf(text);
  controls.prepend(p);
  p.scrollIntoView({ block: "nearest" });
}

document.addEventListener("submit", (e) => {
  const form = e.target;
  if (form.hasAttribute("data-inpage")) {
    e.preventDefault();
    const data = new FormData(form, e.submitter);
    return visit(new URL(`${form.action}?${new URLSearchParams(data)}`));
  }
  if (form.method !== "post" || form.hasAttribute("data-native")) return;
  e.preventDefault();
  if (document.querySelector("[data-card]") && !form.hasAttribute("data-whole")) send(form, e.submitter);
  else sendAway(form, e.submitter);
});

/** Sends a form that leads to another page. What is refused is said where it was typed. */
async function sendAway(form, submitter) {
  const data = dataOf(form, submitter), path = formPath(form), work = document.getElementById("work");
  work.classList.add("saving");
  try {
    const answer = await post(form, data);
    if (answer.ok && answer.redirected) return answer.url === location.href ? location.reload() : location.assign(answer.url);
    const html = await answer.text();
    if (answer.status === 409) {
      show(html, null);
      offerAgain(form, submitter, data);
    } else if (answer.ok) show(html, null);
    else complain(path, html);
  } catch {
    say(gone);
  } finally {
    work.classList.remove("saving");
  }
}

document.addEventListener("change", (e) => {
  const form = e.target.closest("form[data-on-change], form[data-takes-file]");
  const paged = e.target.type === "file" && /\.pdf$/i.test(e.target.value); // its page may have to be said
  if (form && !paged && (e.target.type === "file") === form.hasAttribute("data-takes-file")) form.requestSubmit();
});

/** Typing narrows a list to what speaks of it. */
document.addEventListener("input", (e) => {
  if (!e.target.dataset.narrows) return;
  const words = e.target.value.toLowerCase().split(/\s+/);
  for (const el of document.querySelector(e.target.dataset.narrows).children) el.hidden = !words.every((w) => el.textContent.toLowerCase().includes(w));
});

document.addEventListener("click", (e) => {
  if (e.target.closest("[data-print]")) return window.print();
  const link = e.target.closest("a[href]");
  if (!link || e.ctrlKey || e.metaKey || e.shiftKey || link.hasAttribute("download")) return;
  const to = new URL(link.href), here = document.querySelector("[data-card]")?.dataset.card;
  if (to.origin !== location.origin || (to.hash && to.pathname === location.pathname && to.search === location.search)) return;
  e.preventDefault();
  if (here && !link.hasAttribute("data-whole") && to.pathname.startsWith(`/cards/${here}/`) && !to.pathname.includes(".")) visit(to);
  else leave(to);
});

/** Goes to a page of its own, if the program still answers: what is here would be gone for
    nothing. */
async function leave(to) {
  await sending;
  try {
    await fetch(document.querySelector("link[rel=icon]").href, { cache: "no-store" });
  } catch {
    return say(silent);
  }
  location.assign(to);
}

/** Goes to another page of the card without leaving this one. */
async function visit(to) {
  await sending;
  const html = await get(to, { headers: known() });
  if (html === null) return;
  const same = to.pathname === location.pathname;
  history.pushState(null, "", to);
  show(html, null);
  if (!same) scrollTo(0, 0);
}

let asked = 0; // pages that were gone to

/** Fetches a page to go to; null when another was gone to since, and when the program does
    not answer, which is said. */
async function get(to, options) {
  const late = setTimeout(() => board.tell("Still at it…"), patience), turn = ++asked;
  try {
    const html = await (await fetch(to, options)).text();
    return turn === asked ? html : null;
  } catch {
    say(silent);
    return null;
  } finally {
    clearTimeout(late);
  }
}

addEventListener("popstate", async () => {
  const html = await get(location.href);
  if (html !== null) show(html, null);
});

document.addEventListener("keydown", (e) => {
  const typing = e.target.matches("input:not([type=radio],[type=checkbox],[type=file]), select, textarea");
  const mod = e.ctrlKey || e.metaKey;
  let key = e.key.toLowerCase();
  if (mod) key = `mod+${e.shiftKey ? "shift+" : ""}${key}`;
  if (typing && key === "escape") return e.target.blur(); // so that keys speak to the station again
  if (typing && !(mod && key.endsWith("z") && e.target.value === e.target.defaultValue)) return;
  if (rooms.some((room) => room.key?.(e))) return e.preventDefault();
  if (key === " " && e.target.closest("button, summary, [role=option]")) return; // it is pressed itself
  const el = document.querySelector(`[data-key="${CSS.escape(key)}"]`);
  if (el && !e.altKey && (mod || !e.ctrlKey)) {
    e.preventDefault();
    return el.hasAttribute("data-focus") ? el.focus() : el.click();
  }
  if (mod || e.altKey) return;
  if (/^[1-9]$/.test(key)) document.querySelectorAll(".stations a")[key - 1]?.click();
});

/** While a picture is being read: show how far it is, then the page. */
async function watchReading() {
  const el = document.querySelector("[data-reading]");
  if (!el || el.dataset.watched) return;
  el.dataset.watched = "yes";
  while (el.isConnected) {
    const state = await (await fetch(el.dataset.reading)).json();
    if (!el.isConnected) return;
    if (state.done) {
      await sending; // what is refused is said first
      const html = await (await fetch(location.href)).text();
      if (!el.isConnected) return; // another page was gone to meanwhile
      const kept = begun(), why = refused;
      show(html, null);
      kept.forEach(begin);
      refused = why;
      sayWhatWasRefused();
      return sayWhatWasDone();
    }
    el.querySelector("[data-stage]").textContent = state.stage;
    el.querySelector("progress").value = state.share * 100;
    await new Promise((r) => setTimeout(r, 120));
  }
}

/** Ticks on the cut list stay where they were made, on this machine. */
function keepTicks() {
  const list = document.querySelector("[data-ticks]");
  if (!list) return;
  const name = "ticks " + list.dataset.ticks, ticked = new Set(JSON.parse(localStorage.getItem(name) ?? "[]"));
  for (const box of list.querySelectorAll("[data-tick]")) box.checked = ticked.has(box.dataset.tick);
  list.addEventListener("change", () => localStorage.setItem(name, JSON.stringify([...list.querySelectorAll(":checked")].map((b) => b.dataset.tick))));
}

keepTicks();
for (const room of rooms) room.listen?.(send, say);
watchReading();
document.documentElement.dataset.listening = "";
