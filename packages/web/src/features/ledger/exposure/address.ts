// Where an exposure's pictures and file are.
import { frameFile, framePicture } from '@meridiem/contract';
import type { PartName } from '@meridiem/core';

export const pictureAddress = (id: string, part: PartName, px: number): string =>
  `/api${framePicture.path.replace(':id', id)}?part=${part}&px=${px}`;

export const fileAddress = (id: string): string => `/api${frameFile.path.replace(':id', id)}`;
