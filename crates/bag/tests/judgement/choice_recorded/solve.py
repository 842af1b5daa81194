"""What an exact solver of another make finds for the problems of tests/judgement/choice.rs: HiGHS, by SciPy's `milp`.

    pip install scipy && python3 crates/bag/tests/judgement/choice_recorded/solve.py
"""

import time

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp
from scipy.sparse import coo_array

CASES = [
    (1, 46, 26, 10, 0.0),
    (2, 46, 26, 16, 0.0),
    (3, 46, 26, 22, 0.02),
    (4, 46, 26, 4, 0.05),
    (5, 90, 60, 22, 0.0),
    (6, 90, 60, 22, 0.02),
    (7, 90, 60, 22, 0.1),
    (8, 90, 60, 8, 0.3),
]


def lehmer(seed):
    while True:
        seed = seed * 48271 % 2147483647
        yield seed / 2147483647.0


def strewn(seed, discs, lines):
    random = lehmer(seed)
    at = [(next(random), next(random)) for _ in range(discs)]
    rows = []
    for _ in range(lines):
        x, y = next(random), next(random)
        strokes = next(random)
        width = 0.1 + 0.4 * next(random)
        for weather in range(5):
            moved = 0.08 * (weather - 2)
            share = 0.4 if weather == 2 else 0.15
            row = []
            for j, (a, b) in enumerate(at):
                miss = (a - x - moved) * (a - x - moved) + (b - y) * (b - y)
                chance = np.floor(256.0 * (0.9 - miss / (width * width))) / 256.0
                if chance > 0.0:
                    row.append((j, strokes * share * chance))
            rows.append(row)
    return rows


def best(seed, discs, lines, capacity, kind_price):
    rows = strewn(seed, discs, lines)
    kinds = (discs + 1) // 2
    cells = [(r, j, worth) for r, row in enumerate(rows) for j, worth in row]
    n = discs + kinds + len(cells)
    cost = np.zeros(n)
    cost[discs : discs + kinds] = kind_price
    entries, least, most = [], [], []

    def limit(terms, at_most):
        entries.extend((len(most), variable, weight) for variable, weight in terms)
        least.append(-np.inf)
        most.append(at_most)

    counted = [[] for _ in rows]
    for k, (r, j, worth) in enumerate(cells):
        variable = discs + kinds + k
        cost[variable] = -worth
        counted[r].append((variable, 1.0))
        limit([(variable, 1.0), (j, -1.0)], 0.0)
    for terms in counted:
        limit(terms, 1.0)
    for j in range(discs):
        limit([(j, 1.0), (discs + j // 2, -1.0)], 0.0)
    limit([(j, 1.0) for j in range(discs)], capacity)
    i, j, v = zip(*entries)
    matrix = coo_array((v, (i, j)), shape=(len(most), n)).tocsr()
    integrality = np.zeros(n)
    integrality[:discs] = 1
    began = time.time()
    found = milp(
        cost,
        constraints=LinearConstraint(matrix, least, most),
        bounds=Bounds(0, 1),
        integrality=integrality,
        options={"mip_rel_gap": 0.0},
    )
    return -found.fun + kind_price, time.time() - began, found.status


for case in CASES:
    saves, seconds, status = best(*case)
    print(f"#[case({', '.join(map(str, case))}, {saves:.9f})] // {seconds:.1f} s, status {status}", flush=True)
