"""The same numbers from NumPy, and SciPy's median filter for the stutters."""
import sys
import time

import numpy as np
from scipy.signal import medfilt

frames = np.loadtxt(sys.argv[1], delimiter=",", skiprows=1, usecols=1) if len(sys.argv) < 3 else np.load(sys.argv[2])


def best(work, takes=5):
    times = []
    for _ in range(takes):
        begin = time.perf_counter()
        work()
        times.append(time.perf_counter() - begin)
    return min(times)


def metrics():
    """Average, jitter, the three schools of lows at 1 and 0.1 %, stalls' median, time below 60 FPS."""
    total = frames.sum()
    jitter = np.abs(np.diff(frames)).mean()
    ascending = np.sort(frames)
    sums = np.cumsum(ascending[::-1])
    median = np.quantile(ascending, 0.5)
    lows = []
    for percent in (1, 0.1):
        lows.append(1000 / np.quantile(ascending, 1 - percent / 100))
        k = max(1, int(np.ceil(len(frames) * percent / 100)))
        lows.append(1000 * k / sums[k - 1])
        lows.append(1000 / ascending[-(np.searchsorted(sums, percent / 100 * total) + 1)])
    slow = frames > 2.5 * median
    edges = np.flatnonzero(np.diff(slow.astype(np.int8)))
    below = frames[frames > 1000 / 60].sum() / total
    return total, jitter, lows, edges, below


print(f"NumPy    {len(frames)} frames' metrics in {best(metrics):.3f} s")
print(f"SciPy    {len(frames)} frames, 31-wide median filter in {best(lambda: medfilt(frames, 31), 1):.3f} s")
