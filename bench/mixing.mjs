// Times mixing two colours and naming what comes out, as this program does it and
// as a general-purpose mixing library for JavaScript does, in turns in one run.
//
// Both take two colours in ratios from 1:9 to 9:1 and end with "#rrggbb". The
// library mixes reflectances by one constant; this program mixes absorption and
// scattering and lays a coat of it on paper. Run it from the top of the repository
// after `npm ci`; without the library, it says so and stops.
import { execFileSync } from "node:child_process";
import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

let spectral;
try {
  spectral = (await import("spectral.js")).default;
} catch {
  console.log("skipped: spectral.js is not installed; run npm ci --prefix bench");
  process.exit(0);
}

const ROUNDS = 7, MIXES = 20000;

/** Nanoseconds a mix of the library takes. */
function theirs() {
  const a = new spectral.Color("#2a3f9e"), b = new spectral.Color("#f2d34a");
  let kept = "";
  const begin = process.hrtime.bigint();
  for (let i = 0; i < MIXES; i++) kept = spectral.mix([a, 1 + (i % 9)], [b, 9 - (i % 9)]).toString();
  const took = Number(process.hrtime.bigint() - begin) / MIXES;
  if (!/^#/.test(kept)) throw new Error(`the library returned ${kept}`);
  return took;
}

/** Nanoseconds a mix of this program takes. */
function ours(binary) {
  const out = execFileSync(binary, ["-test.run", "^$", "-test.bench", "^BenchmarkMixToHex$", "-test.benchtime", `${MIXES}x`, "-test.cpu", "1"], { encoding: "utf8" });
  return Number(/([\d.]+) ns\/op/.exec(out)[1]);
}

const median = (v) => v.sort((x, y) => x - y)[v.length >> 1];
const binary = join(mkdtempSync(join(tmpdir(), "mixing-")), "pigment.test");
execFileSync("go", ["test", "-c", "-o", binary, "./core/pigment"]);
theirs(); // the engine compiles what runs often
const here = [], there = [];
for (let i = 0; i < ROUNDS; i++) {
  there.push(theirs());
  here.push(ours(binary));
}
const t = median(there), o = median(here);
console.log(`a mix of two: library ${t.toFixed(0)} ns, this program ${o.toFixed(0)} ns, ${(t / o).toFixed(1)} times as many a second`);
