"""Makes smoother.json: python3 tests/reference/smoother.py > tests/reference/smoother.json (numpy 2.4).

A small problem of the kind that the smoother solves (a level driven by known steps, three constants, noise), answered in one piece: the
joint normal distribution of all levels and constants is written down and conditioned on the measurements. No filter is run.
"""

import json

import numpy as np

random = np.random.default_rng(20260927)
steps, size = 60, 4
drive = random.normal(0, 0.05, steps)
rows = random.normal(0, 0.1, (steps, size - 1))
noise = random.uniform(1e-5, 4e-4, steps)
start = np.array([0.6, 0.1, -0.05, 0.0])
deviations = np.array([0.3, 0.1, 0.2, 0.15])

# Unknowns: the level before the first step, the constants, the noise of each step.
unknowns = size + steps
prior = np.diag(np.concatenate([deviations**2, noise]))
mean = np.concatenate([start, np.zeros(steps)])
to_level = np.zeros((steps, unknowns))
offset = np.zeros(steps)
for k in range(steps):
    before = to_level[k - 1] if k else np.eye(unknowns)[0]
    to_level[k] = before
    to_level[k, 1:size] += rows[k]
    to_level[k, size + k] += 1
    offset[k] = (offset[k - 1] if k else 0) + drive[k]

measurements = []
h_rows, values, sigmas = [], [], []
for step in sorted(random.choice(steps, 9, replace=False).tolist()):
    with_constant = len(measurements) % 3 == 2
    h = [1.0, 0.0, 0.0, 1.0] if with_constant else [1.0, 0.0, 0.0, 0.0]
    value, sigma = float(random.uniform(0.2, 1.0)), float(random.uniform(0.01, 0.08))
    measurements.append({"step": int(step), "value": value, "deviation": sigma, "h": h})
    row = to_level[step].copy()
    row[1:size] += h[1:]
    h_rows.append(row)
    values.append(value - offset[step])
    sigmas.append(sigma)

h_all, r_all = np.array(h_rows), np.diag(np.square(sigmas))
s_all = h_all @ prior @ h_all.T + r_all
gain = prior @ h_all.T @ np.linalg.inv(s_all)
residual = np.array(values) - h_all @ mean
posterior = mean + gain @ residual
covariance = prior - gain @ h_all @ prior
levels = to_level @ posterior + offset
level_deviation = np.sqrt(np.einsum("ij,jk,ik->i", to_level, covariance, to_level))
evidence = -0.5 * (
    len(values) * np.log(2 * np.pi) + np.linalg.slogdet(s_all)[1] + residual @ np.linalg.solve(s_all, residual)
)

print(
    json.dumps(
        {
            "motion": {
                "steps": steps,
                "size": size,
                "drive": drive.tolist(),
                "rows": rows.ravel().tolist(),
                "noise": noise.tolist(),
            },
            "start": {"state": start.tolist(), "deviations": deviations.tolist()},
            "measurements": measurements,
            "level": levels.tolist(),
            "deviation": level_deviation.tolist(),
            "constants": posterior[1:size].tolist(),
            "covariance": covariance[1:size, 1:size].tolist(),
            "evidence": float(evidence),
        },
        indent=1,
    )
)
