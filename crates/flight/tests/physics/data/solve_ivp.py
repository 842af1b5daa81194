"""Landings by scipy's solve_ivp, for the test val_landing_agrees_with_scipy.

Made with: python3 solve_ivp.py > solve_ivp.csv   (scipy 1.17.1)

The equations of docs/model.md with plain polynomials, written out again. Coefficients are of no real disc.
"""

import itertools

import numpy as np
from scipy.integrate import solve_ivp

RADIUS, INERTIA, MASS, RHO, G = 0.106, 0.00148, 0.175, 1.19, 9.80665
# cd0, cd_alpha, alpha0, cl0, cl_alpha, cm0, cm_alpha, cm_alpha2, spin_decay, cr0, cr_alpha, cm_even
DISCS = [
    (0.055, 1.9, -0.035, 0.06, 1.70, -0.009, 0.10, 0.05, 0.024, 0.0, 0.0, 0.0),
    (0.048, 2.1, -0.030, 0.05, 1.90, -0.006, 0.12, 0.20, 0.020, -0.004, 0.03, -0.05),
    (0.062, 1.8, -0.040, 0.07, 1.60, -0.013, 0.08, 0.02, 0.030, 0.002, -0.02, 0.04),
]
# speed, launch, nose, hyzer, aim, spin, height
RELEASES = [
    (26.0, 10.0, -3.0, 0.0, 0.0, 122.0, 1.2),
    (23.0, 12.0, -2.0, 12.0, 3.0, 108.0, 1.2),
    (28.0, 8.0, -4.0, -8.0, -4.0, 130.0, 1.0),
]
WINDS = [(0.0, 0.0), (-4.0, 2.0)]


def rates(disc, wind, sense):
    cd0, cda, a0, cl0, cla, cm0, cma, cma2, decay, cr0, cra, even = disc
    area = np.pi * RADIUS**2

    def f(_t, s):
        v, n, spin = s[3:6], s[6:9], s[9]
        u = v - np.array([wind[0], wind[1], 0.0])
        speed, un = np.linalg.norm(u), u @ n
        plane = u - un * n
        p = np.linalg.norm(plane)
        e = plane / p
        left = np.cross(n, e)
        a = np.arctan2(-un, p)
        q = 0.5 * RHO * speed**2
        lift = q * area * (cl0 + cla * a) * (n * p / speed - e * un / speed)
        drag = -q * area * (cd0 + cda * (a - a0) ** 2) * u / speed
        moment = q * area * 2 * RADIUS * (cm0 + cma * a + cma2 * a * abs(a) + even * a**2)
        acceleration = (lift + drag) / MASS - np.array([0.0, 0.0, G])
        roll = q * area * 2 * RADIUS * (cr0 + cra * a)
        dn = (sense * moment * left - roll * e) / (INERTIA * spin)
        return np.concatenate([v, acceleration, dn, [-decay * spin]])

    return f


def start(release, sense):
    speed, launch, nose, hyzer, aim, spin, height = release
    la, pitch, bank, ai = np.radians([launch, launch + nose, sense * hyzer, aim])
    turn = np.array([[np.cos(ai), -np.sin(ai), 0], [np.sin(ai), np.cos(ai), 0], [0, 0, 1]])
    v = turn @ np.array([speed * np.cos(la), 0, speed * np.sin(la)])
    n = turn @ np.array([-np.sin(pitch) * np.cos(bank), np.sin(bank), np.cos(pitch) * np.cos(bank)])
    return np.concatenate([[0, 0, height], v, n, [spin]])


def ground(_t, s):
    return s[2]


ground.terminal, ground.direction = True, -1
print("disc,release,wind,left_handed,x_m,y_m,time_s")
for (d, disc), (r, release), (w, wind), left in itertools.product(
    enumerate(DISCS), enumerate(RELEASES), enumerate(WINDS), (0, 1)
):
    sense = -1.0 if left else 1.0
    run = solve_ivp(
        rates(disc, wind, sense), (0, 40), start(release, sense), "DOP853", events=ground, rtol=1e-10, atol=1e-10
    )
    t, s = run.t_events[0][0], run.y_events[0][0]
    alphas = [
        np.arctan2(-(u @ n), np.sqrt(max(u @ u - (u @ n) ** 2, 0)))
        for u, n in ((y[3:6] - np.array([*wind, 0.0]), y[6:9]) for y in run.y.T)
    ]
    if np.max(np.abs(alphas)) < np.radians(25):
        print(f"{d},{r},{w},{left},{s[0]:.6f},{s[1]:.6f},{t:.6f}")
