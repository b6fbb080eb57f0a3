"""Fits a cylinder to points by scipy.optimize.least_squares; prints radius, its standard deviation and the RMS."""
import sys

import numpy as np
from scipy.optimize import least_squares

points = np.loadtxt(sys.argv[1])
centroid = points.mean(axis=0)
p = points - centroid


def residuals(x):
    # Axis direction (a, b, 1) through (x0, y0, 0).
    axis = np.array([x[2], x[3], 1.0])
    axis /= np.linalg.norm(axis)
    d = p - np.array([x[0], x[1], 0.0])
    return np.linalg.norm(np.cross(d, axis), axis=1) - x[4]


fit = least_squares(residuals, [0, 0, 0.2, -0.3, 15], xtol=1e-15, ftol=1e-15, gtol=1e-15, x_scale="jac")
n = len(p)
sigma2 = 2 * fit.cost / (n - 5)
covariance = np.linalg.inv(fit.jac.T @ fit.jac) * sigma2
print(repr(float(fit.x[4])), repr(float(np.sqrt(covariance[4, 4]))), repr(float(np.sqrt(2 * fit.cost / n))))
