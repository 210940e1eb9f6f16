"""A second opinion on `contact`: the same model with other elements, another grid and another solver.

Conforming bicubic rectangles (value, both slopes and twist at each node) instead of the twelve-term ones, 2.5 mm instead of 10, SciPy's
sparse LU instead of the band Cholesky. Needs Debian's python3-scipy. Its figures stand in core/contact/contact.test.ts.

    /usr/bin/python3 bench/second-opinion.py STACK.json [widest element, mm]
"""
import json
import sys

import numpy as np
import scipy.sparse as sparse
from scipy.sparse.linalg import spsolve

PADS_ACROSS, DIE_ACROSS = 6, 16
DIE_KPA_PER_MM = 1e6
RIGID = 1e5

stack = json.load(open(sys.argv[1]))
widest = float(sys.argv[2]) if len(sys.argv) > 2 else 2.5
board, die, screws, parts = stack["board"], stack["die"], stack["screws"], stack["components"]
nu = board["poisson"]
rigidity = board["youngGPa"] * 1e3 * board["thicknessMm"] ** 3 / 12 / (1 - nu**2)
left, right = die["xMm"] - die["widthMm"] / 2, die["xMm"] + die["widthMm"] / 2
low, high = die["yMm"] - die["heightMm"] / 2, die["yMm"] + die["heightMm"] / 2


def lines(length, through):
    places = sorted({0.0, float(length), *map(float, through)})
    out = []
    for a, b in zip(places, places[1:]):
        n = max(1, int(np.ceil((b - a) / widest - 1e-9)))
        out += [a + (b - a) * k / n for k in range(n)]
    return np.array([*out, float(length)])


xs = lines(board["widthMm"], [left, right, *(s["xMm"] for s in screws)])
ys = lines(board["heightMm"], [low, high, *(s["yMm"] for s in screws)])
size = 4 * len(xs) * len(ys)


def hermite(t, length):
    """Cubic shape functions on an element, their slopes and curvatures."""
    value = [1 - 3 * t**2 + 2 * t**3, length * (t - 2 * t**2 + t**3), 3 * t**2 - 2 * t**3, length * (t**3 - t**2)]
    slope = [-6 * t + 6 * t**2, length * (1 - 4 * t + 3 * t**2), 6 * t - 6 * t**2, length * (3 * t**2 - 2 * t)]
    bend = [-6 + 12 * t, length * (6 * t - 4), 6 - 12 * t, length * (6 * t - 2)]
    return np.array(value), np.array(slope) / length, np.array(bend) / length**2


def unknowns(i, j):
    return [4 * ((i + a // 2) * len(ys) + j + b // 2) + 2 * (a % 2) + b % 2 for a in range(4) for b in range(4)]


def element(lx, ly):
    nodes, weights = np.polynomial.legendre.leggauss(4)
    matrix = np.zeros((16, 16))
    for p, wp in zip((nodes + 1) / 2, weights / 2):
        vx, dx, ex = hermite(p, lx)
        for q, wq in zip((nodes + 1) / 2, weights / 2):
            vy, dy, ey = hermite(q, ly)
            xx, yy, xy = np.outer(ex, vy).ravel(), np.outer(vx, ey).ravel(), 2 * np.outer(dx, dy).ravel()
            both = np.outer(xx, yy)
            matrix += wp * wq * lx * ly * (
                np.outer(xx, xx) + np.outer(yy, yy) + nu * (both + both.T) + (1 - nu) / 2 * np.outer(xy, xy)
            )
    return matrix


known, rows, columns, values = {}, [], [], []
for i in range(len(xs) - 1):
    for j in range(len(ys) - 1):
        key = (round(xs[i + 1] - xs[i], 9), round(ys[j + 1] - ys[j], 9))
        if key not in known:
            known[key] = element(*key)
        under = left < (xs[i] + xs[i + 1]) / 2 < right and low < (ys[j] + ys[j + 1]) / 2 < high
        at = np.array(unknowns(i, j))
        rows.append(np.repeat(at, 16))
        columns.append(np.tile(at, 16))
        values.append(rigidity * (RIGID if under else 1) * known[key].ravel())
plate = sparse.csr_matrix(
    (np.concatenate(values), (np.concatenate(rows), np.concatenate(columns))), shape=(size, size)
)


def at_points(points):
    """Deflections at points as a matrix on the unknowns."""
    r, c, v = [], [], []
    for k, (x, y) in enumerate(points):
        i = min(max(int(np.searchsorted(xs, x, side="right")) - 1, 0), len(xs) - 2)
        j = min(max(int(np.searchsorted(ys, y, side="right")) - 1, 0), len(ys) - 2)
        vx = hermite((x - xs[i]) / (xs[i + 1] - xs[i]), xs[i + 1] - xs[i])[0]
        vy = hermite((y - ys[j]) / (ys[j + 1] - ys[j]), ys[j + 1] - ys[j])[0]
        r += [k] * 16
        c += unknowns(i, j)
        v += list(np.outer(vx, vy).ravel())
    return sparse.csr_matrix((v, (r, c)), shape=(len(points), size))


def spread(x, y, width, height, n):
    return [(x + width * ((i + 0.5) / n - 0.5), y + height * ((j + 0.5) / n - 0.5)) for i in range(n) for j in range(n)]


on_die = at_points(spread(die["xMm"], die["yMm"], die["widthMm"], die["heightMm"], DIE_ACROSS))
die_spring = DIE_KPA_PER_MM * 1e-3 * die["widthMm"] * die["heightMm"] / DIE_ACROSS**2
at_screws = at_points([(s["xMm"], s["yMm"]) for s in screws])
pull0 = np.array([s["forceN"] for s in screws], float)
spring = np.array([s["springNPerMm"] for s in screws], float)
points, owner, areas = [], [], []
for index, part in enumerate(parts):
    if pad := part.get("pad"):
        w, h = min(part["widthMm"], pad["widthMm"]), min(part["heightMm"], pad["heightMm"])
        points += spread(part["xMm"], part["yMm"], w, h, PADS_ACROSS)
        owner += [index] * PADS_ACROSS**2
        areas += [w * h / PADS_ACROSS**2] * PADS_ACROSS**2
on_pads = at_points(points)


def pressed(index, deflection):
    """Strain, pressure (kPa) and its slope per mm at one point of a pad."""
    pad = parts[index]["pad"]
    total = pad["thicknessMm"] * pad.get("layers", 1)
    strain = 1 - (parts[index]["gapMm"] - deflection) / total
    if strain <= 0:
        return 0.0, 0.0, 0.0
    curve = stack["materials"][pad["material"]]["curve"]
    k = next((k for k in range(1, len(curve)) if strain <= curve[k][0]), len(curve) - 1)
    slope = (curve[k][1] - curve[k - 1][1]) / (curve[k][0] - curve[k - 1][0])
    return strain, curve[k - 1][1] + slope * (strain - curve[k - 1][0]), slope / total


def forces(u):
    w = on_die @ u
    off = plate @ u + on_die.T @ (die_spring * np.maximum(w, 0))
    tangent = plate + on_die.T @ sparse.diags(die_spring * (w > 0)) @ on_die
    if points:
        found = np.array([pressed(index, d) for index, d in zip(owner, on_pads @ u)])
        newtons = 1e-3 * np.array(areas)
        off = off + on_pads.T @ (found[:, 1] * newtons)
        tangent = tangent + on_pads.T @ sparse.diags(found[:, 2] * newtons) @ on_pads
    pull = np.maximum(0, pull0 - spring * (at_screws @ u))
    off = off - at_screws.T @ pull
    return off, tangent + at_screws.T @ sparse.diags(spring * (pull > 0)) @ at_screws


u = np.zeros(size)
float_not = sparse.diags(np.tile([1e-6, 0, 0, 0], size // 4))
for _ in range(200):
    off, tangent = forces(u)
    step = -spsolve((tangent + float_not).tocsc(), off)
    slope = abs(off @ step)
    if slope < 1e-11:
        break
    share = 1.0
    while share > 1e-6 and forces(u + share * step)[0] @ step > 0.5 * slope:
        share /= 2
    u = u + share * step

force = die_spring * np.maximum(on_die @ u, 0).sum()
corners = at_points([(left, low), (right, low), (right, high), (left, high)]) @ u
print(f"die {force:.2f} N, {1e3 * force / die['widthMm'] / die['heightMm']:.2f} kPa, corners apart by {-corners} mm")
for index, part in enumerate(parts):
    own = [k for k, one in enumerate(owner) if one == index]
    if own:
        found = np.array([pressed(index, d) for d in (on_pads @ u)[own]])
        print(f"{part['id']}: {100 * found[:, 0].mean():.2f} % squeezed, {1e-3 * (found[:, 1] * np.array(areas)[own]).sum():.2f} N")
slope_x = (corners[1] + corners[2] - corners[0] - corners[3]) / 2 / die["widthMm"]
slope_y = (corners[2] + corners[3] - corners[0] - corners[1]) / 2 / die["heightMm"]
bow = u[::4].reshape(len(xs), len(ys)) - corners.mean() - slope_x * (xs[:, None] - die["xMm"]) - slope_y * (ys[None] - die["yMm"])
worst = np.unravel_index(np.abs(bow).argmax(), bow.shape)
print(f"board bent by {bow[worst]:.4f} mm at {xs[worst[0]]:g}, {ys[worst[1]]:g}")
