#!/usr/bin/env python3
"""One small image written by an independent library and packer in many ways, with the hashes of its pixels: pixel-fixtures.py FOLDER"""
import hashlib
import json
import os
import shutil
import subprocess
import sys

import numpy as np
from astropy.io import fits

folder = sys.argv[1]
os.makedirs(folder, exist_ok=True)
rng = np.random.default_rng(7)
# Sky, a gradient, a saturated patch, an empty row: blocks of equal numbers, small and large differences.
unsigned = (rng.poisson(900, (24, 70)) + np.arange(70) * 20).astype(np.uint16)
unsigned[3:6, 10:20] = 65535
unsigned[9] = 0
unsigned[12] = rng.integers(0, 65536, 70)
wide = unsigned.astype(np.int32) * 30000 - 900_000_000
bytes_only = (unsigned % 251).astype(np.uint8)
real = (unsigned / 7).astype(np.float32)
real[2, 2] = np.nan
cube = np.stack([unsigned, unsigned[::-1], unsigned // 3])


def hash_of(pixels):
    """SHA-256 over the SHA-256 of each 2^20 pixels, as little-endian numbers of single precision."""
    flat = pixels.astype("<f4").ravel()
    flat = np.where(np.isnan(flat), np.float32(-3.4028234663852886e38), flat).astype("<f4")
    digests = [hashlib.sha256(flat[i : i + (1 << 20)].tobytes()).digest() for i in range(0, flat.size, 1 << 20)]
    return hashlib.sha256(b"".join(digests)).hexdigest()


expected = {}


def write(name, hdus, pixels):
    fits.HDUList(hdus).writeto(os.path.join(folder, name), overwrite=True)
    expected[name] = None if pixels is None else hash_of(pixels)


def packed(name, pixels, kind, tile=None, quantize=0.0, expect=True):
    image = fits.CompImageHDU(pixels, compression_type=kind, tile_size=tile, quantize_level=quantize)
    write(name, [fits.PrimaryHDU(), image], pixels if expect else None)


def fpacked(name, source, flag, pixels):
    target = os.path.join(folder, name)
    shutil.copy(os.path.join(folder, source), target)
    subprocess.run(["fpack", "-F", "-Y", flag, target], check=True)
    if os.path.exists(target + ".fz"):
        os.replace(target + ".fz", target)
    expected[name] = hash_of(pixels)


write("unsigned.fits", [fits.PrimaryHDU(unsigned)], unsigned)
write("int32.fits", [fits.PrimaryHDU(unsigned.astype(np.int32))], unsigned)
write("int64.fits", [fits.PrimaryHDU(unsigned.astype(np.int64))], unsigned)
write("float.fits", [fits.PrimaryHDU(unsigned.astype(np.float32))], unsigned)
write("double.fits", [fits.PrimaryHDU(unsigned.astype(np.float64))], unsigned)
write("extension.fits", [fits.PrimaryHDU(), fits.ImageHDU(unsigned)], unsigned)
for kind in ("RICE_1", "GZIP_1", "GZIP_2"):
    packed(f"unsigned-{kind.lower()}.fits", unsigned, kind)
packed("unsigned-rows.fits", unsigned, "RICE_1", tile=(70, 5))
packed("unsigned-whole.fits", unsigned, "GZIP_1", tile=(70, 24))
fpacked("unsigned-fpack-rice.fits", "unsigned.fits", "-r", unsigned)
fpacked("unsigned-fpack-gzip.fits", "unsigned.fits", "-g", unsigned)
write("wide.fits", [fits.PrimaryHDU(wide)], wide)
packed("wide-rice.fits", wide, "RICE_1")
write("bytes.fits", [fits.PrimaryHDU(bytes_only)], bytes_only)
packed("bytes-rice.fits", bytes_only, "RICE_1")
write("real.fits", [fits.PrimaryHDU(real)], real)
packed("real-gzip.fits", real, "GZIP_2")
write("cube.fits", [fits.PrimaryHDU(cube)], cube)
packed("cube-rice.fits", cube, "RICE_1")
# What loses something, or is cut in squares, has no hash.
packed("real-quantised.fits", real, "RICE_1", quantize=16.0, expect=False)
packed("unsigned-squares.fits", unsigned, "RICE_1", tile=(16, 8), expect=False)
packed("unsigned-hcompress.fits", unsigned, "HCOMPRESS_1", expect=False)

with open(os.path.join(folder, "expected.json"), "w", encoding="utf8") as out:
    json.dump(expected, out, indent=2)
    out.write("\n")
