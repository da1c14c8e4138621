#!/usr/bin/env python3
"""Five frames, each written again in twenty ways by an independent library and packer: re-encodings.py FOLDER"""
import gzip
import os
import shutil
import subprocess
import sys

import numpy as np
from astropy.io import fits

folder = sys.argv[1]
FRAMES = [
    ("L", 120.0, "2026-10-10T12:34:56.789"),
    ("R", 120.0, "2026-10-10T12:37:10.123"),
    ("Ha", 300.0, "2026-10-10T12:40:00.500"),
    ("OIII", 600.0, "2026-10-10T12:46:00.000"),
    ("B", 60.0, "2026-10-10T12:58:01.999"),
]


def header(filter_name, seconds, start):
    cards = fits.Header()
    for key, value in (
        ("IMAGETYP", "Light Frame"), ("OBJECT", "NGC 7090"), ("DATE-OBS", start), ("EXPTIME", seconds),
        ("FILTER", filter_name), ("GAIN", 100), ("OFFSET", 30), ("XBINNING", 1), ("YBINNING", 1),
        ("CCD-TEMP", -10.0), ("INSTRUME", "Heron camera"), ("TELESCOP", "Heron"), ("RA", 324.12), ("DEC", -54.557),
    ):
        cards[key] = value
    return cards


def write(name, hdus):
    fits.HDUList(hdus).writeto(os.path.join(folder, name), overwrite=True, output_verify="silentfix")


def pack(source, target, *flags):
    shutil.copy(source, target)
    subprocess.run(["fpack", "-F", "-Y", *flags, target], check=True)
    if os.path.exists(target + ".fz"):
        os.replace(target + ".fz", target)


for number, (filter_name, seconds, start) in enumerate(FRAMES):
    pixels = np.random.default_rng(number).poisson(1000, (60, 80)).astype(np.uint16)
    cards = header(filter_name, seconds, start)
    at = lambda way: os.path.join(folder, f"frame-{number}-{way}.fits")
    name = lambda way: f"frame-{number}-{way}.fits"
    write(name("unsigned"), [fits.PrimaryHDU(pixels, cards)])
    write(name("signed"), [fits.PrimaryHDU(pixels.astype(np.int16), cards)])
    write(name("int32"), [fits.PrimaryHDU(pixels.astype(np.int32), cards)])
    write(name("float"), [fits.PrimaryHDU(pixels.astype(np.float32), cards)])
    write(name("double"), [fits.PrimaryHDU(pixels.astype(np.float64), cards)])
    write(name("normalised"), [fits.PrimaryHDU((pixels / 65535).astype(np.float32), cards)])
    write(name("calibrated"), [fits.PrimaryHDU(pixels.astype(np.float32) * 1.07 - 30, cards)])
    write(name("extension"), [fits.PrimaryHDU(), fits.ImageHDU(pixels, cards)])
    write(name("flipped"), [fits.PrimaryHDU(pixels[::-1].copy(), cards)])
    renamed = cards.copy()
    renamed["OBJECT"], renamed["OBSERVER"] = "ngc7090 renamed", "Somebody Else"
    write(name("renamed"), [fits.PrimaryHDU(pixels, renamed)])
    whole = cards.copy()
    whole["DATE-OBS"] = start.split(".")[0]
    write(name("whole-seconds"), [fits.PrimaryHDU(pixels, whole)])
    beginning = cards.copy()
    del beginning["DATE-OBS"]
    beginning["DATE-BEG"] = start
    write(name("date-beg"), [fits.PrimaryHDU(pixels, beginning)])
    length = cards.copy()
    del length["EXPTIME"]
    length["EXPOSURE"] = seconds
    write(name("exposure"), [fits.PrimaryHDU(pixels, length)])
    for way in ("RICE_1", "GZIP_1", "GZIP_2"):
        compressed = fits.CompImageHDU(pixels, cards, compression_type=way)
        write(name(way.lower()), [fits.PrimaryHDU(), compressed])
    pack(at("unsigned"), at("fpack-rice"), "-r")
    pack(at("unsigned"), at("fpack-gzip"), "-g")
    with open(at("unsigned"), "rb") as plain:
        data = plain.read()
    with gzip.open(at("gzipped") + ".gz", "wb") as packed:
        packed.write(data)
    with open(at("cut-off"), "wb") as short:
        short.write(data[: len(data) - 4000])
