#!/usr/bin/env python3
"""Teaches the judge of gaps: fits a forest to passages and writes it for the program.

    gaps.py PASSAGES.csv... > core/lineart/gaps.json

Each table is one that scripts/gaps wrote. What a third of the drawings says, which the
forest has not seen, is told on the error stream; then all of them are fitted. Few trees
with few leaves do better on drawings of another kind than many do.
Needs sklearn (Debian: python3-sklearn).
"""
import csv
import json
import sys

import numpy as np
from sklearn.ensemble import HistGradientBoostingClassifier
from sklearn.metrics import log_loss, roc_auc_score

HELD_OUT = 3  # one drawing in so many


def read(paths):
    names, drawings, gaps, evidence = None, [], [], []
    for path in paths:
        with open(path, newline="") as f:
            rows = csv.reader(f)
            head = next(rows)
            if names not in (None, head[2:]):
                sys.exit(f"gaps: {path} has other evidence than the table before it")
            names = head[2:]
            for drawing, gap, *values in rows:
                drawings.append(drawing)
                gaps.append(gap == "true")
                evidence.append([float(v) for v in values])
    return names, np.array(drawings), np.array(gaps), np.array(evidence)


def forest(evidence, gaps):
    return HistGradientBoostingClassifier(
        max_iter=60, max_leaf_nodes=16, learning_rate=0.15, min_samples_leaf=40, l2_regularization=5, random_state=1
    ).fit(evidence, gaps)


def short(v):
    return float(f"{v:.5g}")


def tree(nodes):
    return [[short(n["value"])] if n["is_leaf"] else [int(n["feature_idx"]), short(n["num_threshold"]), int(n["left"]), int(n["right"])] for n in nodes]


def main():
    if len(sys.argv) < 2:
        sys.exit(__doc__)
    names, drawings, gaps, evidence = read(sys.argv[1:])
    every = sorted(set(drawings))
    held = np.isin(drawings, np.random.default_rng(0).choice(every, len(every) // HELD_OUT, replace=False))
    odds = forest(evidence[~held], gaps[~held]).predict_proba(evidence[held])[:, 1]
    print(
        f"{len(gaps)} passages of {len(every)} drawings, {gaps.mean():.2f} of them gaps; not seen: "
        f"log loss {log_loss(gaps[held], odds):.3f}, area under the curve {roc_auc_score(gaps[held], odds):.3f}",
        file=sys.stderr,
    )
    fitted = forest(evidence, gaps)
    trees = [tree(t[0].nodes) for t in fitted._predictors]
    print('{"evidence": %s,\n "base": %g,\n "trees": [\n  %s\n]}' % (
        json.dumps(names), fitted._baseline_prediction.ravel()[0],
        ",\n  ".join(json.dumps(t, separators=(",", ":")) for t in trees)))


if __name__ == "__main__":
    main()
