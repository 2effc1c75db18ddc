// The numbers of the areas: as large as can be read, apart from each other, and a line to
// where each belongs when it had to move.

const gap = 0.3; // mm between two of them
const rounds = 60; // moving one apart from another may bring it onto a third

/** Lays the marks of a drawing out at a scale of so many pixels a millimetre, within its width
    and height. */
export function spread(drawing, scale, readable, width, height) {
  const marks = [...drawing.querySelectorAll(".marks > g")].map((g) => {
    g.dataset.at ??= g.getAttribute("transform").match(/[-\d.]+/g).slice(0, 2).join(" ");
    const [x, y] = g.dataset.at.split(" ").map(Number), own = Number(g.dataset.scale);
    const larger = Math.max(1, readable / (3.3 * scale * own));
    return { g, own, larger, at: { x, y }, x, y, r: g.querySelector("circle").r.baseVal.value * own * larger };
  });
  for (let i = 0; i < rounds && part(marks, width, height); i++);
  marks.forEach(draw);
}

/** Moves marks that lie on each other apart, both alike; whether any did. */
function part(marks, width, height) {
  let moved = false;
  marks.forEach((a, i) => marks.slice(i + 1).forEach((b) => {
    let dx = b.x - a.x, dy = b.y - a.y, far = Math.hypot(dx, dy);
    const short = a.r + b.r + gap - far;
    if (short < gap / 10) return;
    if (!far) [dx, dy, far] = [1, 0, 1];
    for (const [m, way] of [[a, -1], [b, 1]]) {
      m.x = within(m.x + (way * dx * short) / far / 2, m.r, width);
      m.y = within(m.y + (way * dy * short) / far / 2, m.r, height);
    }
    moved = true;
  }));
  return moved;
}

/** Keeps a mark on the panel. */
const within = (v, r, most) => Math.max(r, Math.min(most - r, v));

function draw({ g, own, larger, at, x, y, r }) {
  g.setAttribute("transform", `translate(${x} ${y}) scale(${own})`);
  for (const part of g.querySelectorAll("circle, text")) part.setAttribute("transform", `scale(${larger})`);
  g.querySelector("path").setAttribute("d", Math.hypot(at.x - x, at.y - y) > r ? `M0 0L${(at.x - x) / own} ${(at.y - y) / own}` : "");
}
