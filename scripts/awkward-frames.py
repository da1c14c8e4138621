#!/usr/bin/env python3
"""Writes the awkward frames that the header reader is held to: packages/core/fixtures/frames.

Files named w-* come from astropy (an independent writer), the rest byte by byte, since no sound library writes them.
Run by the long tests, which compare what it writes with what is committed.
"""
import gzip
import sys
import warnings
from pathlib import Path

import numpy as np
from astropy.io import fits

warnings.simplefilter("ignore")
OUT = Path(sys.argv[1] if len(sys.argv) > 1 else "packages/core/fixtures/frames")
OUT.mkdir(parents=True, exist_ok=True)
PIXELS = (np.arange(48, dtype=np.int16).reshape(6, 8) * 7 + 100).astype(np.int16)


def base(**cards):
    header = fits.Header()
    common = dict(
        IMAGETYP="Light Frame", OBJECT="NGC 7090", INSTRUME="Heron camera", TELESCOP="Heron, the long reflector",
        FILTER="L", EXPTIME=120.0, GAIN=100, OFFSET=30, XBINNING=1, YBINNING=1,
        RA=324.12, DEC=-54.557, **{"CCD-TEMP": -10.0, "DATE-OBS": "2026-10-10T12:34:56.789"},
    )
    common.update({key.replace("_", "-") if key in ("DATE_OBS", "CCD_TEMP") else key: value for key, value in cards.items()})
    for key, value in common.items():
        if value is not None:
            header[key] = value
    return header


def write(name, header, data=PIXELS):
    fits.PrimaryHDU(data=data, header=header).writeto(OUT / name, overwrite=True)


# ---- written by astropy ----
write("w-plain.fits", base())
write("w-ra-hours-comment.fits", base(RA=(21.608, "[hours] telescope"), DEC=(-54.557, "[deg]")))
write("w-ra-sexagesimal.fits", base(RA="21 36 28.8", DEC="-54 33 25"))
write("w-only-objctra.fits", base(RA=None, DEC=None, OBJCTRA="21 36 28.8", OBJCTDEC="-54 33 25"))
write("w-exposure-differs.fits", base(EXPTIME=120.0, EXPOSURE=0.002))
write("w-only-exposure.fits", base(EXPTIME=None, EXPOSURE=120.0))
write("w-date-and-ut.fits", base(DATE_OBS="2026-10-10", UT="12:34:56.789"))
write("w-two-digit-year.fits", base(DATE_OBS="10/10/26", **{"TIME-OBS": "12:34:56"}))
write("w-local-time.fits", base(DATE_OBS="2026-10-10T23:04:56.789", **{"MJD-OBS": 61323.52426839}))
write("w-cd-matrix.fits", base(
    CTYPE1="RA---TAN", CTYPE2="DEC--TAN", CRVAL1=324.12, CRVAL2=-54.557, CRPIX1=4.5, CRPIX2=3.5,
    CD1_1=-2.0e-4 * np.cos(np.radians(30)), CD1_2=2.0e-4 * np.sin(np.radians(30)),
    CD2_1=2.0e-4 * np.sin(np.radians(30)), CD2_2=2.0e-4 * np.cos(np.radians(30))))
write("w-pc-cdelt.fits", base(
    CTYPE1="RA---TAN", CTYPE2="DEC--TAN", CRVAL1=324.12, CRVAL2=-54.557, CRPIX1=4.5, CRPIX2=3.5, CDELT1=-2.0e-4, CDELT2=2.0e-4,
    PC1_1=np.cos(np.radians(30)), PC1_2=-np.sin(np.radians(30)), PC2_1=np.sin(np.radians(30)), PC2_2=np.cos(np.radians(30))))
write("w-cdelt-crota.fits", base(
    CTYPE1="RA---TAN", CTYPE2="DEC--TAN", CRVAL1=324.12, CRVAL2=-54.557, CRPIX1=4.5, CRPIX2=3.5, CDELT1=-2.0e-4, CDELT2=2.0e-4, CROTA2=-30.0))
write("w-mirrored.fits", base(
    CTYPE1="RA---TAN", CTYPE2="DEC--TAN", CRVAL1=324.12, CRVAL2=-54.557, CRPIX1=4.5, CRPIX2=3.5, CDELT1=2.0e-4, CDELT2=2.0e-4, CROTA2=0.0))
write("w-off-centre-wcs.fits", base(
    CTYPE1="RA---TAN", CTYPE2="DEC--TAN", CRVAL1=324.12, CRVAL2=-54.557, CRPIX1=504.5, CRPIX2=3.5, CDELT1=-2.0e-4, CDELT2=2.0e-4))
write("w-gain-is-egain.fits", base(GAIN=(0.26, "[e-/ADU] electrons per ADU"), EGAIN=0.26))
write("w-filter-blank.fits", base(FILTER="   "))
write("w-filter-padded-lower.fits", base(FILTER=" ha   "))
write("w-flat-variant.fits", base(IMAGETYP="SKYFLAT"))
write("w-bias-variant.fits", base(IMAGETYP="zero", EXPTIME=0.0))
write("w-unsigned.fits", base(), PIXELS.astype(np.uint16) + 40000)
long_header = base()
long_header["OBSERVER"] = "Mirela Costin, " + "with a note that is far too long for one card of eighty characters " * 2
write("w-continue.fits", long_header)
hierarch = base()
hierarch["HIERARCH STATION SKY QUALITY"] = 21.6
write("w-hierarch.fits", hierarch)
fits.HDUList([fits.PrimaryHDU(header=base()), fits.CompImageHDU(data=np.tile(PIXELS, (4, 4)), name="FRAME")]).writeto(
    OUT / "w-compressed.fits", overwrite=True)
fits.HDUList([
    fits.PrimaryHDU(header=base()),
    fits.BinTableHDU.from_columns([fits.Column(name="n", format="J", array=[1, 2, 3])]),
    fits.ImageHDU(data=PIXELS, header=fits.Header([("FILTER", "OIII")])),
]).writeto(OUT / "w-multi-extension.fits", overwrite=True)
write("w-second-a.fits", base(DATE_OBS="2026-10-10T12:40:00", EXPNUM=41), PIXELS + 2)
write("w-second-b.fits", base(DATE_OBS="2026-10-10T12:40:00", EXPNUM=42), PIXELS + 1)
write("w-new-header.fits", base(OBJECT="NGC7090 renamed", FILTER="Lum"))

# ---- written byte by byte ----
plain = (OUT / "w-plain.fits").read_bytes()


def card(text):
    return text.ljust(80).encode("latin-1")


def raw(cards, data=PIXELS.astype(">i2").tobytes(), end=True, pad=True):
    head = b"".join(card(c) for c in cards) + (card("END") if end else b"")
    if pad:
        head = head.ljust(-(-len(head) // 2880) * 2880)
    return head + data + (b"\0" * (-len(data) % 2880) if pad else b"")


CARDS = [
    "SIMPLE  =                    T", "BITPIX  =                   16", "NAXIS   =                    2", "NAXIS1  =                    8",
    "NAXIS2  =                    6", "IMAGETYP= 'LIGHT   '", "OBJECT  = 'NGC 7090'", "INSTRUME= 'Heron camera'",
    "FILTER  = 'L       '", "EXPTIME =                120.0", "GAIN    =                  100", "DATE-OBS= '2026-10-10T12:34:56.789'",
    "RA      =               324.12", "DEC     =              -54.557",
]
(OUT / "d-exponent.fits").write_bytes(raw([c.replace("               324.12", "             3.2412D+2") for c in CARDS]))
(OUT / "duplicate-card.fits").write_bytes(raw(CARDS + ["FILTER  = 'R       '"]))
(OUT / "not-ascii.fits").write_bytes(raw(CARDS + ["OBSERVER= 'Jérôme   '"]))
(OUT / "no-end.fits").write_bytes(raw(CARDS, end=False, data=b""))
(OUT / "not-padded.fits").write_bytes(raw(CARDS, pad=False))
(OUT / "data-short.fits").write_bytes(raw(CARDS, data=PIXELS.astype(">i2").tobytes()[:60], pad=False).replace(
    card("END"), card("END").ljust(2880 - len(CARDS) * 80), 1))
(OUT / "gzipped.fits.gz").write_bytes(gzip.compress(plain, mtime=0))
(OUT / "empty.fits").write_bytes(b"")
(OUT / "not-fits.fits").write_bytes(b"\x89PNG\r\n\x1a\n" + b"\0" * 200)
