"""Fits one kind of surface or curve to points by scipy.optimize.least_squares, as a second opinion.

usage: scipy_fits.py KIND POINTS START...   START: the sizes to start from (radius; half angle or smaller radius)
Prints: direction (3), sigma, then each size with its standard deviation.

All but the ellipse minimise distances in closed form. The ellipse is fitted with the place of every foot as an
unknown of its own (orthogonal distance regression), so that no formula for a foot is shared with what it checks.
"""
import sys

import numpy as np
from scipy.optimize import least_squares

kind = sys.argv[1]
points = np.loadtxt(sys.argv[2])
start = [float(s) for s in sys.argv[3:]]
p = points - points.mean(axis=0)
n = len(p)


def frame(x):
    axis = np.array([x[0], x[1], 1.0])
    axis /= np.linalg.norm(axis)
    u = np.cross([0.0, 1.0, 0.0], axis)
    u /= np.linalg.norm(u)
    return axis, u, np.cross(axis, u)


def on_axis(x):
    """A point of the axis, in the plane through the centroid square to `base`: a place that does not turn with it."""
    return x[2] * base[1] + x[3] * base[2]


def about_axis(x):
    axis = frame(x)[0]
    d = p - on_axis(x)
    z = d @ axis
    return z, np.linalg.norm(d - np.outer(z, axis), axis=1)


def about_centre(x):
    axis = frame(x)[0]
    d = p - x[2:5]
    z = d @ axis
    return z, np.linalg.norm(d - np.outer(z, axis), axis=1)


def plane(x):
    return p @ frame(x)[0] - x[2]


def line(x):
    _, u, v = frame(x)
    d = p - on_axis(x)
    return np.concatenate([d @ u, d @ v])


def cylinder(x):
    return about_axis(x)[1] - x[4]


def cone(x):
    z, rho = about_axis(x)
    return (rho - x[4]) * np.cos(x[5]) - z * np.sin(x[5])


def sphere(x):
    return np.linalg.norm(p - x[0:3], axis=1) - x[3]


def torus(x):
    z, rho = about_centre(x)
    return np.hypot(rho - x[5], z) - x[6]


def circle(x):
    z, rho = about_centre(x)
    return np.concatenate([rho - x[5], z])


def ellipse(x):
    _, u, v = frame(x)
    major = np.cos(x[7]) * u + np.sin(x[7]) * v
    minor = -np.sin(x[7]) * u + np.cos(x[7]) * v
    at = x[8:]
    feet = x[2:5] + np.outer(x[5] * np.cos(at), major) + np.outer(x[6] * np.sin(at), minor)
    return (p - feet).ravel()


# The function, how many of its first unknowns say place and direction, and where the sizes begin.
KINDS = {
    "plane": (plane, 3), "line": (line, 4), "cylinder": (cylinder, 4), "cone": (cone, 4), "sphere": (sphere, 3),
    "torus": (torus, 5), "circle": (circle, 5), "ellipse": (ellipse, 5),
}
function, sizes_at = KINDS[kind]
x0 = [0.0] * sizes_at + start
if kind != "sphere":
    x0[0:2] = [0.2, -0.3]
if kind == "ellipse":
    x0.append(0.0)
    _, u, v = frame(x0)
    x0 += list(np.arctan2(p @ v / start[1], p @ u / start[0]))
# Twice: the second time square to the axis found, so that its point is the centroid's foot.
for _ in range(2):
    base = frame(x0)
    fit = least_squares(function, x0, xtol=1e-15, ftol=1e-15, gtol=1e-15, x_scale="jac", max_nfev=500)
    x0 = fit.x
sigma2 = 2 * fit.cost / (len(fit.fun) - len(fit.x))
covariance = np.linalg.inv(fit.jac.T @ fit.jac) * sigma2
direction = np.zeros(3) if kind == "sphere" else frame(fit.x)[0]
numbers = [*direction, np.sqrt(sigma2)]
for i in range(sizes_at, sizes_at + len(start)):
    numbers += [fit.x[i], np.sqrt(covariance[i, i])]
print(*(repr(float(value)) for value in numbers))
