// Where an exposure's pictures and file are.
import type { CalibrationDegree } from '@meridiem/contract';
import { frameFile, framePicture } from '@meridiem/contract';
import type { PartName } from '@meridiem/core';

export const pictureAddress = (
  id: string,
  part: PartName,
  px: number,
  calibration: CalibrationDegree = 'none',
): string =>
  `/api${framePicture.path.replace(':id', id)}?part=${part}&px=${px}${calibration === 'none' ? '' : `&calibration=${calibration}`}`;

export const fileAddress = (id: string): string => `/api${frameFile.path.replace(':id', id)}`;
