"""The analysis of a swing as a script that computes on whole arrays would do it,
for the comparison of speed in docs/performance.md and of numbers by eye.

    dunnock sim plates --kind swing --noise 4 --write swing.csv
    python3 vectorised.py swing.csv TOP_S IMPACT_S

It needs NumPy and SciPy. It does what the Go analysis does: zero, filter (all
channels in one call), body weight, efforts, turn, events, peaks, shape, shares,
paths, braking; it leaves out refusals, notes and findings.
"""

import functools
import json
import math
import sys
import time

import numpy as np
from scipy import signal

G = 9.80665


def read(path):
    with open(path) as f:
        names = f.readline().strip().split(",")
        f.readline()
        data = np.genfromtxt(f, delimiter=",")
    return {n: np.nan_to_num(data[:, i]) for i, n in enumerate(names)}


@functools.cache
def cubic(half):
    """What a window is multiplied by to give the least-squares cubic."""
    x = np.arange(-half, half + 1.0)
    return np.linalg.pinv(np.vander(x, 4))


def summit(y, a, b):
    """The largest value between two samples, by a cubic around it."""
    part = y[a : b + 1]
    i = int(part.argmax())
    half = min(25, i, len(part) - 1 - i)
    if half < 3:
        return part[i], a + i
    c3, c2, c1, c0 = cubic(half) @ part[i - half : i + half + 1]
    inside = c2 * c2 - 3 * c3 * c1
    if inside <= 0:
        return part[i], a + i
    x = c1 / (-c2 + math.sqrt(inside)) if c2 < 0 else (-c2 - math.sqrt(inside)) / (3 * c3)
    if abs(x) > half:
        return part[i], a + i
    return ((c3 * x + c2) * x + c1) * x + c0, a + i + x


def analyse(ch, rate, top_s, impact_s):
    dt, n = 1 / rate, len(ch["Fz_lead"])
    at = lambda s: int(round(s * rate))
    top, impact = at(top_s), at(impact_s)
    keys = ["Fx", "Fy", "Fz", "CoPx", "CoPy", "Tz"]
    x = np.array([ch[k + "_" + f] for f in ("lead", "trail") for k in keys])
    for foot in (0, 6):
        x[foot + 3 : foot + 5] *= x[foot + 2]
    empty = np.abs(x[2] + x[8]) < 0.08 * np.max(x[2] + x[8])
    edges = np.flatnonzero(np.diff(np.concatenate(([0], empty.view(np.int8), [0]))))
    runs = edges.reshape(-1, 2)
    runs = runs[runs[:, 1] - runs[:, 0] > 0.2 * rate]
    if len(runs):
        a, b = runs[0]
        x -= x[:, a:b].mean(axis=1, keepdims=True)
    sos = signal.butter(2, 40 / (math.sqrt(2) - 1) ** 0.25, fs=rate, output="sos")
    x = signal.sosfiltfilt(sos, x, axis=1, padlen=at(0.1))
    for foot in (0, 6):
        up = x[foot + 2]
        x[foot + 3 : foot + 5] = np.where(up > 10, x[foot + 3 : foot + 5] / np.where(up > 10, up, 1), 0)
    lead, trail = x[:6], x[6:]
    lateral, fore, up = lead[0] + trail[0], lead[1] + trail[1], lead[2] + trail[2]
    # Body weight: the quietest second before the downswing.
    w, end = at(1), impact - at(0.35)
    s1 = np.concatenate(([0], np.cumsum(up[:end])))
    s2 = np.concatenate(([0], np.cumsum(up[:end] ** 2)))
    mean = (s1[w:] - s1[:-w]) / w
    var = (s2[w:] - s2[:-w]) / w - mean**2
    var[mean < 0.25 * up.max()] = np.inf
    quiet = int(np.argmin(var))
    bw = mean[quiet]
    q = slice(quiet, quiet + w)
    share = lead[2] / np.maximum(up, 1)
    px = share * lead[3] + (1 - share) * trail[3]
    py = share * lead[4] + (1 - share) * trail[4]
    turn = lead[5] + trail[5]
    for f in (lead, trail):
        turn = turn + (f[4] - py) * f[0] - (f[3] - px) * f[1]
    # Takeaway: the last fifth of a second before top in which nothing stirs.
    calm = np.ones(top, bool)
    for y, band in ((lateral, 6), (turn, 2), (share, 0.012)):
        calm &= np.abs(y[:top] - y[q].mean()) <= max(5 * y[q].std(), band)
    held = np.convolve(calm, np.ones(at(0.2)), "valid") >= at(0.2)
    last = np.flatnonzero(held)
    takeaway = int(last[-1]) + at(0.2) if len(last) else top - at(0.8)
    near = np.abs(up[impact + at(0.1) :] - bw) <= 0.05 * bw
    long = np.flatnonzero(np.convolve(near, np.ones(at(0.25)), "valid") >= at(0.25))
    finish = impact + at(0.1) + int(long[0]) if len(long) else n - 1
    out = {"bodyWeightN": bw, "takeawayS": takeaway * dt, "finishS": finish * dt}
    for name, y in (("lateral", lateral), ("foreAft", fore), ("fromBall", -fore), ("rotational", turn), ("vertical", up)):
        v, p = summit(y, top, impact)
        out[name] = [v, impact_s - p * dt]
    v, p = summit(-lateral, takeaway, int((impact_s - out["lateral"][1]) * rate))
    out["away"] = [v, impact_s - p * dt]
    peak = int((impact_s - out["vertical"][1]) * rate)
    low = takeaway + int(np.argmin(up[takeaway : peak + 1]))
    out["unweighting"] = bw - up[low]
    r = at(0.02)
    out["maxRfd"] = np.max(up[low + r : impact + 1] - up[low : impact + 1 - r]) / (r * dt)
    out["humps"] = len(signal.find_peaks(up[low : impact + 1], prominence=0.05 * bw)[0])
    out["above"] = np.count_nonzero(up[top : impact + 1] > bw) * dt
    for name, a, b in (("back", takeaway, top), ("down", top, impact), ("through", impact, finish)):
        out[name] = [np.trapz(y[a : b + 1], dx=dt) for y in (lateral, fore, up - bw, turn)]
    out["shares"] = [share[q].mean(), share[top], share[impact], share[peak]]
    for name, f in (("lead", lead), ("trail", trail)):
        on = f[2][takeaway : finish + 1] > 0.05 * bw
        out[name] = [summit(f[2], top, impact), summit(f[0], top, impact)[0], np.trapz(f[2][top : impact + 1], dx=dt)]
        out[name] += [np.ptp(f[k][takeaway : finish + 1][on]) for k in (3, 4)]
    out["paths"] = [np.ptp(px[takeaway : finish + 1]), np.ptp(py[takeaway : finish + 1])]
    to = min(n - 1, impact + at(0.3))
    out["after"] = [summit(-lateral, impact, to)[0], summit(-turn, impact, to)[0], summit(-up, impact, to)[0], summit(lead[2], impact, to)[0]]
    return out


if __name__ == "__main__":
    channels = read(sys.argv[1])
    rate = round(1 / np.median(np.diff(channels["time"])))
    top, impact = float(sys.argv[2]), float(sys.argv[3])
    took = []
    for _ in range(300):
        begun = time.perf_counter()
        result = analyse(channels, rate, top, impact)
        took.append(1000 * (time.perf_counter() - begun))
    took.sort()
    print(json.dumps(result, default=lambda v: v.tolist() if hasattr(v, "tolist") else float(v)))
    print(f"median {took[150]:.2f} ms, from {took[15]:.2f} to {took[285]:.2f} (5th to 95th percentile of 300)")
