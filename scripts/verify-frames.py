"""Reads every FITS file of a folder with astropy, an independent library, and holds it against the standard and against itself."""
import sys
from pathlib import Path

import numpy as np
from astropy.io import fits
from astropy.time import Time

problems = []
starts = set()
files = sorted(Path(sys.argv[1]).glob("*.fits"))
for path in files:
    with fits.open(path) as hdus:
        hdus.verify("exception")
        header, data = hdus[0].header, hdus[0].data
        if data.shape != (header["NAXIS2"], header["NAXIS1"]):
            problems.append(f"{path.name}: {data.shape}")
        if not (data.min() >= 0 and data.max() <= 65535 and np.std(data.astype(float)) > 0):
            problems.append(f"{path.name}: pixels from {data.min()} to {data.max()}")
        start = Time(header["DATE-OBS"], scale="utc")
        if start.isot in starts:
            problems.append(f"{path.name}: a second exposure begun at {start.isot}")
        starts.add(start.isot)
        for keyword in ("EXPTIME", "FILTER", "GAIN", "OFFSET", "CCD-TEMP", "RA", "DEC", "OBJECT", "PIERSIDE", "SIMULATE"):
            if keyword not in header:
                problems.append(f"{path.name}: no {keyword}")
print("\n".join(problems) or f"{len(files)} files sound, read by astropy")
sys.exit(1 if problems else 0)
