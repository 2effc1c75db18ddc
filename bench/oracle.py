#!/usr/bin/env python3
"""The mark for finding cells: one who knows which cells a drawing has, and sees only its scan.

    oracle.py SCAN TRUTH LABELS

SCAN is the scan, TRUTH the true cells as a grey picture of its size with 16 bits, 0 for the
line and 1 to N for cells; LABELS is written alike. Every gap is judged rightly, since each
pixel that looks like paper belongs to the true cell nearest to it; but the edge is the one
that is seen, half of the way from ink to paper. A score of LABELS is therefore about the best
that a scan as worn as this one allows, and what the program lacks of it is judgement.
Needs cv2 (Debian: python3-opencv).
"""
import sys

import cv2
import numpy as np

WIDE = 1000  # pixels across that tell how the light falls


def evened(grey):
    """The scan as if its paper were alike all over, 255 the lightest."""
    scale = min(1, WIDE / max(grey.shape))
    small = cv2.resize(grey, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    paper = cv2.medianBlur(cv2.dilate(small, np.ones((15, 15), np.uint8)), 31)
    paper = cv2.resize(paper, grey.shape[::-1], interpolation=cv2.INTER_LINEAR)
    return cv2.GaussianBlur(np.clip(255.0 * grey / np.maximum(paper, 1), 0, 255).astype(np.float32), (3, 3), 0)


def labels(grey, truth):
    """The true cell of each pixel that looks like paper, 0 where ink is seen."""
    light = evened(grey)
    paper, ink = np.median(light[truth > 0]), np.median(light[truth == 0])
    _, nearest = cv2.distanceTransformWithLabels((truth == 0).astype(np.uint8), cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL)
    cell = np.zeros(nearest.max() + 1, truth.dtype)
    cell[nearest[truth > 0]] = truth[truth > 0]
    return np.where(light > (paper + ink) / 2, cell[nearest], 0)


def main():
    if len(sys.argv) != 4:
        sys.exit(__doc__)
    scan, truth = cv2.imread(sys.argv[1], cv2.IMREAD_GRAYSCALE), cv2.imread(sys.argv[2], cv2.IMREAD_UNCHANGED)
    if scan is None or truth is None or scan.shape != truth.shape:
        sys.exit("oracle: scan and truth must be two grey pictures of one size")
    if not (truth == 0).any() or not (truth > 0).any():
        sys.exit("oracle: the truth has no line or no cell")
    cv2.imwrite(sys.argv[3], labels(scan, truth.astype(np.uint16)))


if __name__ == "__main__":
    main()
