#!/usr/bin/env python3
"""Frames with known stars, made and measured by independent libraries: pixel-frames.py make FOLDER | judge FOLDER

make: twenty frames of several sizes with gradients, trails, saturated stars and profiles with wings, each with its truth.
judge: background, stars and half-flux radii of every frame in the folder by sep, with the seconds that took; and the half-flux
radius that each true star has in its pixels without noise."""
import json
import os
import sys
import time

import numpy as np
import sep
from astropy.io import fits

REACH = 12


def pixel_profile(size_x, size_y, x, y, star):
    """A star's light in whole pixels: a Gaussian, or a Moffat profile with wings, sampled five by five in each pixel."""
    reach = int(np.ceil(8 * star["sigma"])) + 2
    x0, x1 = max(0, int(x) - reach), min(size_x, int(x) + reach + 1)
    y0, y1 = max(0, int(y) - reach), min(size_y, int(y) + reach + 1)
    fine = (np.arange(5) + 0.5) / 5 - 0.5
    gx = (np.arange(x0, x1)[:, None] + fine).ravel() - x
    gy = (np.arange(y0, y1)[:, None] + fine).ravel() - y
    r2 = gx[None, :] ** 2 + gy[:, None] ** 2
    sigma = star["sigma"]
    if star["beta"] is None:
        light = np.exp(-r2 / (2 * sigma**2)) / (2 * np.pi * sigma**2)
    else:
        beta = star["beta"]
        alpha2 = (2.3548 * sigma / 2) ** 2 / (2 ** (1 / beta) - 1)
        light = (beta - 1) / (np.pi * alpha2) * (1 + r2 / alpha2) ** -beta
    cells = light.reshape(y1 - y0, 5, x1 - x0, 5).mean(axis=(1, 3))
    return (slice(y0, y1), slice(x0, x1)), cells


def make(folder):
    sizes = [(1024, 1024), (1400, 900), (800, 640), (2000, 1300), (512, 512)]
    for number in range(20):
        rng = np.random.default_rng(100 + number)
        width, height = sizes[number % len(sizes)]
        gain = [0.8, 1.0, 1.6, 2.4][number % 4]
        sky = [60, 250, 900, 2500][number % 4]
        read_noise = [1.5, 3.5, 8][number % 3]
        sigma = [0.85, 1.02, 1.4, 1.9, 2.6][(number * 3) % 5]
        beta = 3.5 if number % 4 == 3 else None
        light = np.full((height, width), float(sky))
        yy, xx = np.mgrid[0:height, 0:width]
        slope = [0, 0.1, 0.25][number % 3] * sky
        light += slope * (xx / width - 0.5) + 0.5 * slope * (yy / height - 0.5)
        stars = []
        for _ in range(width * height // 7000):
            flux = float(10 ** rng.uniform(2.3, 5.2))
            star = {"x": float(rng.uniform(4, width - 5)), "y": float(rng.uniform(4, height - 5)), "flux": flux, "sigma": sigma, "beta": beta}
            where, cells = pixel_profile(width, height, star["x"], star["y"], star)
            light[where] += flux * cells
            stars.append(star)
        if number % 4 == 1:
            # A satellite, straight across.
            angle = rng.uniform(0, np.pi)
            away = (xx - width / 2) * np.sin(angle) - (yy - height / 2) * np.cos(angle)
            light += 6 * np.sqrt(sky) * np.exp(-(away**2) / (2 * sigma**2))
        electrons = rng.poisson(light) + rng.normal(0, read_noise, light.shape)
        offset = 300
        counts = np.clip(np.round(electrons / gain + offset), 0, 65535).astype(np.uint16)
        name = f"made-{number:02d}"
        fits.PrimaryHDU(counts).writeto(os.path.join(folder, name + ".fits"), overwrite=True)
        truth = {"skyE": float(np.median(light - sum_of_stars(light.shape, stars))), "gain": gain, "offset": offset, "readNoiseE": read_noise, "trail": number % 4 == 1, "stars": stars}
        with open(os.path.join(folder, name + ".json"), "w") as out:
            json.dump(truth, out)


def sum_of_stars(shape, stars):
    total = np.zeros(shape)
    for star in stars:
        where, cells = pixel_profile(shape[1], shape[0], star["x"], star["y"], star)
        total[where] += star["flux"] * cells
    return total


def true_radii(stars):
    """Half-flux radii of stars alone, in pixels without noise; by place within the pixel, to a twentieth."""
    known = {}
    radii = []
    for star in stars:
        key = (round(star["x"] % 1 * 20), round(star["y"] % 1 * 20), star["sigma"], star["beta"], star.get("sampled", False))
        if key not in known:
            size = 121
            x, y = 60 + star["x"] % 1, 60 + star["y"] % 1
            if star.get("sampled"):
                g = np.arange(size)
                cells = np.exp(-((g[None, :] - x) ** 2 + (g[:, None] - y) ** 2) / (2 * star["sigma"] ** 2))
                patch = cells / cells.sum()
            else:
                patch = np.zeros((size, size))
                where, cells = pixel_profile(size, size, x, y, star)
                patch[where] = cells
            radius, _ = sep.flux_radius(patch, [x], [y], [50.0], 0.5, normflux=[patch.sum()], subpix=11)
            known[key] = float(radius[0])
        radii.append(known[key])
    return radii


def judge(folder, only=None):
    sep.set_extract_pixstack(5_000_000)
    for name in sorted(os.listdir(folder)):
        if not name.endswith(".fits") or (only and name != only):
            continue
        pixels = fits.getdata(os.path.join(folder, name)).astype(np.float32)
        with open(os.path.join(folder, name[:-5] + ".json")) as source:
            truth = json.load(source)
        started = time.perf_counter()
        background = sep.Background(pixels, bw=64, bh=64, fw=3, fh=3)
        above = pixels - background
        found = sep.extract(above, 3.0, err=background.globalrms, minarea=5)
        radius, _ = sep.flux_radius(above, found["x"], found["y"], np.full(len(found), 12.0), 0.5, subpix=5)
        seconds = time.perf_counter() - started
        answer = {
            "level": float(np.median(background.back())),
            "noise": float(background.globalrms),
            "seconds": seconds,
            "stars": [{"x": float(x), "y": float(y), "r": float(r), "flux": float(f)} for x, y, r, f in zip(found["x"], found["y"], radius, found["flux"])],
            "trueRadii": true_radii(truth["stars"]),
        }
        with open(os.path.join(folder, name[:-5] + ".sep.json"), "w") as out:
            json.dump(answer, out)


{"make": make, "judge": judge}[sys.argv[1]](*sys.argv[2:])
