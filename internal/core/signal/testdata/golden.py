"""Makes golden.json: what SciPy gives for the signals the tests filter,
integrate and search for peaks. Run: python3 golden.py > golden.json
"""

import json
import math
import sys

import numpy
import scipy
from scipy import integrate, signal

CORRECTION = (math.sqrt(2) - 1) ** 0.25  # two passes of second order


def trace(n, rate):
    """A push on a plate: stance, dip, push, nothing, landing, and mains hum."""
    t = numpy.arange(n) / rate
    y = 780 + 3 * numpy.sin(2 * math.pi * 50 * t) + 0.7 * numpy.sin(2 * math.pi * 211 * t)
    y = y - 400 * numpy.exp(-(((t - 0.5) / 0.08) ** 2)) + 1100 * numpy.exp(-(((t - 0.8) / 0.09) ** 2))
    y[int(0.95 * rate) : int(1.3 * rate)] = 0
    return y


out = {"scipy": scipy.__version__, "numpy": numpy.__version__, "filters": [], "integrals": [], "peaks": []}
for rate in (500, 1000, 2000):
    y = trace(int(1.6 * rate), rate)
    for cutoff in (10, 40, 50):
        for pad in (9, int(4 * rate / cutoff)):
            sos = signal.butter(2, cutoff / CORRECTION, fs=rate, output="sos")
            z = signal.sosfiltfilt(sos, y, padlen=pad)
            out["filters"].append({"rate": rate, "cutoff": cutoff, "pad": pad, "every": 37, "values": [float(v) for v in z[::37]]})
    out["integrals"].append(
        {
            "rate": rate,
            "total": float(numpy.trapz(y, dx=1 / rate)),
            "running": [float(v) for v in integrate.cumulative_trapezoid(y, dx=1 / rate, initial=0)[::53]],
            "every": 53,
        }
    )
    for prominence in (2, 50, 300):
        found, _ = signal.find_peaks(y, prominence=prominence)
        out["peaks"].append({"rate": rate, "prominence": prominence, "at": [int(i) for i in found]})
# The maximum of a cubic fitted to a window by least squares.
y = signal.sosfiltfilt(signal.butter(2, 40 / CORRECTION, fs=1000, output="sos"), trace(1600, 1000))
out["fits"] = []
for half in (12, 20, 40):
    x = numpy.arange(-half, half + 1)
    cubic = numpy.poly1d(numpy.polyfit(x, y[800 - half : 801 + half], 3))
    place = min((float(r.real) for r in cubic.deriv().roots if abs(r.imag) < 1e-12), key=abs)
    out["fits"].append({"half": half, "at": 800, "place": 800 + place, "value": float(cubic(place))})
json.dump(out, sys.stdout)
