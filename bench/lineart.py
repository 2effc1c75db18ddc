#!/usr/bin/env python3
"""Times finding the cells of a line drawing against the same steps in OpenCV.

Both run in turns on the same pictures, the sample drawings at 300 and 600 dpi,
so that a noisy machine is noisy for both. OpenCV does blur, threshold,
morphology, components, an exact distance transform and a watershed, which is
what the cells need at least. Run it from the top of the repository with a
Python that has cv2 (Debian: python3-opencv); without it, it says so and stops.
"""
import glob
import os
import re
import statistics
import subprocess
import sys
import tempfile
import time

try:
    import cv2
    import numpy as np
except ImportError:
    print("skipped: python3-opencv is not installed")
    sys.exit(0)

ROUNDS = 5
HERE = os.path.dirname(os.path.dirname(os.path.abspath(__file__)))


def opencv(path):
    """The steps in OpenCV; seconds, without reading the file."""
    picture = cv2.imread(path, cv2.IMREAD_GRAYSCALE)
    begin = time.perf_counter()
    smooth = cv2.GaussianBlur(picture, (3, 3), 0)
    _, white = cv2.threshold(smooth, 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)
    white = cv2.morphologyEx(white, cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
    far = cv2.distanceTransform(white, cv2.DIST_L2, cv2.DIST_MASK_PRECISE)
    _, seeds = cv2.threshold(far, 7, 255, cv2.THRESH_BINARY)
    _, markers = cv2.connectedComponents(seeds.astype(np.uint8))
    cv2.watershed(cv2.cvtColor(picture, cv2.COLOR_GRAY2BGR), markers)
    return time.perf_counter() - begin


def ours(binary, path, dpi):
    """The same of this program; seconds, without reading the file."""
    run = subprocess.run(
        [binary, "-test.run", "^$", "-test.bench", "FindFile", "-test.benchtime", "3x"],
        env=dict(os.environ, CHROMAQUA_BENCH_PICTURE=path, CHROMAQUA_BENCH_DPI=str(dpi)),
        capture_output=True, text=True, check=True, cwd=os.path.join(HERE, "core", "lineart"))
    return float(re.search(r"([\d.]+) ns/op", run.stdout).group(1)) / 1e9


def main():
    drawings = sorted(glob.glob(os.path.join(HERE, "internal/demo/drawings/*.png")))
    with tempfile.TemporaryDirectory() as folder:
        binary = os.path.join(folder, "lineart.test")
        subprocess.run(["go", "test", "-c", "-o", binary, "./core/lineart"], check=True, cwd=HERE)
        for dpi in (300, 600):
            theirs, here = [], []
            for path in drawings:
                picture = cv2.imread(path, cv2.IMREAD_GRAYSCALE)
                # A panel's size: the drawing on a sheet of 4 1/4 by 5 1/2 in.
                sheet = np.full((dpi * 11 // 2, dpi * 17 // 4), 245, np.uint8)
                drawn = cv2.resize(picture, None, fx=dpi / 300, fy=dpi / 300, interpolation=cv2.INTER_CUBIC)
                h, w = min(drawn.shape[0], sheet.shape[0]), min(drawn.shape[1], sheet.shape[1])
                sheet[:h, :w] = drawn[:h, :w]
                at = os.path.join(folder, "sheet.png")
                cv2.imwrite(at, sheet)
                a, b = [], []
                for _ in range(ROUNDS):
                    a.append(opencv(at))
                    b.append(ours(binary, at, dpi))
                theirs.append(statistics.median(a))
                here.append(statistics.median(b))
            t, o = statistics.mean(theirs), statistics.mean(here)
            print(f"{dpi} dpi, {len(drawings)} pictures: OpenCV {1000 * t:.0f} ms, this program {1000 * o:.0f} ms, {o / t:.2f} times")


if __name__ == "__main__":
    main()
