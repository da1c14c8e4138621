"""Reads every FITS file below a folder with astropy, an independent library, and prints what each says of itself, as JSON."""
import hashlib
import json
import sys
from pathlib import Path

from astropy.io import fits

root = Path(sys.argv[1])
frames = []
for path in sorted(root.rglob("*.fits")):
    with fits.open(path, do_not_scale_image_data=False) as hdus:
        hdus.verify("exception")
        header, data = hdus[0].header, hdus[0].data
        frames.append({
            "name": path.relative_to(root).as_posix(),
            "serial": header["SERIAL"],
            "kind": header["IMAGETYP"],
            "filter": header.get("FILTER"),
            "gain": header["GAIN"],
            "offset": header["OFFSET"],
            "binning": header["XBINNING"],
            "widthPx": int(data.shape[1]),
            "heightPx": int(data.shape[0]),
            "pixels": hashlib.sha256(data.astype(">u2").tobytes()).hexdigest(),
        })
print(json.dumps(frames))
