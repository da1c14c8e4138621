import { expect, test } from '@playwright/test';
import { enterAs, seriousFaults, tabTo, urlOf } from './pages.ts';

test('six panels from nothing to a project, by mouse', async ({ page }) => {
  await enterAs(page, 'Ruan Aldous', '/framing');
  await expect(page.getByText('Find a target to frame.')).toBeVisible();
  await page.getByPlaceholder('name, number, or coordinates').fill('ngc 253');
  await page
    .getByRole('list', { name: 'Found targets' })
    .getByRole('button', { name: /^NGC 253/ })
    .first()
    .click();
  const sky = page.getByRole('application', { name: /Sky around/ });
  await expect(sky).toBeVisible();
  await page.getByLabel('Rows').fill('2');
  await page.getByLabel('Columns').fill('3');
  await expect(page.getByRole('list', { name: 'What it amounts to' })).toContainText('6 panels');
  const before = await sky.getAttribute('aria-label');
  const box = (await sky.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 60, box.y + box.height / 2 + 30, { steps: 6 });
  await page.mouse.up();
  await expect(sky).not.toHaveAttribute('aria-label', before!);
  expect(new URL(page.url()).searchParams.get('ra')).not.toBe('11.888');
  expect(await seriousFaults(page)).toEqual([]);
  await page.getByLabel('Name of the project').fill('Sculptor in six');
  await page.getByRole('button', { name: 'Begin a draft with these 6 panels' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Sculptor in six');
  await expect(page.getByRole('region', { name: 'Sculptor in six, panel 6' })).toBeVisible();
});

test('a frame is moved and turned by keys, and says what its rig can’t do', async ({ page }) => {
  await enterAs(
    page,
    'Ilse Marwick',
    '/framing?target=NGC%20253&ra=11.888&dec=-70&rows=3&cols=6&angle=12&layout=one_plane',
  );
  await expect(page.getByRole('alert')).toContainText('On one plane the outer panels are turned');
  await page.getByRole('button', { name: 'Use one camera angle' }).click();
  await expect(page.getByRole('alert')).toHaveCount(0);
  const sky = page.getByRole('application', { name: /Sky around/ });
  await sky.focus();
  await page.keyboard.press('+');
  await expect(page.getByLabel('Angle of the upward side')).toHaveValue('13');
  await page.keyboard.press('ArrowUp');
  await expect.poll(() => Number(new URL(page.url()).searchParams.get('dec'))).toBeGreaterThan(-70);
  await page.getByRole('button', { name: 'Centre on target' }).click();
  await expect.poll(() => new URL(page.url()).searchParams.get('dec')).toBe('-70');
});

test('six panels with goals from nothing, by keyboard alone', async ({ page }) => {
  await page.goto(urlOf('/'));
  await tabTo(page, /Ruan Aldous/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Tonight');
  await page.keyboard.press('g');
  await page.keyboard.press('c');
  await expect(page.getByText('Find a target to frame.')).toBeVisible();
  await tabTo(page, /^target/);
  await page.keyboard.type('ngc 1313');
  await expect(page.getByRole('list', { name: 'Found targets' })).toContainText('NGC 1313');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await tabTo(page, /^Rows/);
  await page.keyboard.press('ArrowUp');
  await tabTo(page, /^Columns/);
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowUp');
  await expect(page.getByRole('list', { name: 'What it amounts to' })).toContainText('6 panels');
  await tabTo(page, /Sky around/);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('+');
  await expect(page.getByLabel('Angle of the upward side')).toHaveValue('13');
  await expect.poll(() => new URL(page.url()).searchParams.get('angle')).toBe('13');
  await tabTo(page, /Name of the project/);
  await page.keyboard.type('By keys alone');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('By keys alone');
  await tabTo(page, /^Recipe/);
  await page.keyboard.press('ArrowDown');
  await tabTo(page, /^Wanted/);
  await page.keyboard.type('90');
  await tabTo(page, /^Add goal/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Wanted through/ })).toHaveCount(6);
});

test('neighbours, another rig, an outline and files: each answers in its own words', async ({ page }) => {
  await enterAs(page, 'Ruan Aldous', '/framing?target=NGC%20253&ra=11.888&dec=-25.288&size=27.5&angle=12');
  await page.getByText('Subject and neighbours').click();
  await page.getByLabel('and in the same field').fill('ngc 288');
  await page
    .getByRole('list', { name: 'Found targets' })
    .getByRole('button', { name: /^NGC 288/ })
    .first()
    .click();
  await page.getByText('Suggest a layout').click();
  await page.getByRole('button', { name: 'Suggest a layout for all' }).click();
  const fit = page.getByRole('region', { name: 'Suggest a layout' });
  await expect(fit).toContainText(
    /NGC 253 and NGC 288 (fit into one field|don’t fit into one field; together they take)/,
  );
  await fit.getByRole('button', { name: /^Take/ }).first().click();
  await expect(page.getByRole('list', { name: 'What it amounts to' })).toContainText('100 % of NGC 288 inside');

  await page.getByRole('combobox', { name: 'rig' }).selectOption({ label: 'Heron, the long reflector' });
  await expect(page.getByRole('alert')).toContainText('This was framed with Wren, the wide refractor');
  await page.getByRole('button', { name: /^The area: \d+ × \d+ panels/ }).click();
  await expect(page.getByRole('alert')).toHaveCount(0);
  await expect(page.getByRole('list', { name: 'What it amounts to' })).toContainText(/\d+ panels, together/);

  await page.getByRole('button', { name: 'Draw outline' }).click();
  const box = (await page.getByRole('application', { name: /Sky around/ }).boundingBox())!;
  for (const [x, y] of [
    [0.3, 0.3],
    [0.6, 0.35],
    [0.5, 0.7],
  ])
    // prettier-ignore
    await page.mouse.click(box.x + x * box.width, box.y + y * box.height);
  await page.getByRole('button', { name: 'Close the outline' }).click();
  await expect.poll(() => new URL(page.url()).searchParams.get('outline')?.split(';').length).toBe(3);

  await page.getByText('Files', { exact: true }).click();
  const files = page.getByRole('region', { name: 'Files' });
  const [download] = await Promise.all([page.waitForEvent('download'), files.getByText('panels as CSV').click()]);
  expect(download.suggestedFilename()).toContain('panels.csv');
  const pasted = files.getByRole('textbox');
  await pasted.fill('nothing of the kind');
  await files.getByRole('button', { name: 'Use it' }).click();
  await expect(files.getByRole('alert')).toContainText('This is none of: FITS cards with CRVAL1');
  await pasted.fill('POLYGON ICRS 11 -25 12 -25 11.5 -24.5 11.2 -24.4');
  await files.getByRole('button', { name: 'Use it' }).click();
  await expect(files.getByRole('status')).toContainText('An outline of 4 corners is the subject now.');
  expect(await seriousFaults(page)).toEqual([]);
});

test('what can’t be framed is said at its place', async ({ page }) => {
  await enterAs(page, 'Ruan Aldous', '/framing?target=here&ra=20&dec=-89.8&rows=3&cols=3');
  const refused = page.getByRole('alert');
  await expect(refused).toContainText('so near a pole their sides turn away from each other');
  await page.goto(urlOf('/framing?target=here&ra=20&dec=-30&rows=10&cols=10&layout=one_plane'));
  await page.getByLabel('Rows').fill('11');
  await expect(page.getByRole('alert').filter({ hasText: 'from 1 to 10' })).toBeVisible();
  await page.getByRole('button', { name: 'Centre of the frame, J2000: change' }).click();
  await page.getByRole('textbox', { name: 'Centre of the frame, J2000' }).fill('05h 20m');
  await page.keyboard.press('Enter');
  await expect(page.getByText('The declination is missing: give both coordinates or neither')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByText('Test shot', { exact: true }).click();
  const shot = page.getByRole('region', { name: 'Test shot' });
  await shot
    .getByLabel('A FITS picture with its plate solution')
    .setInputFiles({ name: 'holiday.fits', mimeType: 'image/fits', buffer: Buffer.from('not a picture of the sky') });
  await expect(shot.getByRole('alert')).toContainText('holiday.fits can’t be read as a FITS picture');
});

test('a published picture is placed by two stars, and the frame follows it', async ({ page }) => {
  const [raDeg, decDeg, widthDeg] = [83.8, -5.4, 6];
  await enterAs(page, 'Ruan Aldous', `/framing?target=Sword&ra=${raDeg}&dec=${decDeg}&angle=20&wide=6&pictures=0`);
  // A picture of the same sky, north up, whose stars are where the catalogue has them.
  const picture = await (await page.request.get(urlOf(`/api/survey/thumbnail?raDeg=${raDeg}&decDeg=${decDeg}&widthDeg=${widthDeg}`))).body(); // prettier-ignore
  await page.getByText('Reference picture').click();
  const room = page.getByRole('region', { name: 'Reference picture' });
  await room
    .getByLabel('A published picture')
    .setInputFiles({ name: 'holiday.png', mimeType: 'image/png', buffer: Buffer.from('no') });
  await expect(room.getByRole('alert')).toContainText('holiday.png can’t be read as a picture');
  await room
    .getByLabel('A published picture')
    .setInputFiles({ name: 'sword.png', mimeType: 'image/png', buffer: picture });
  // Its own plate solution places it without any star; one of another frame is refused.
  const cards = (side: number): string =>
    [`CRVAL1  = ${raDeg}`, `CRVAL2  = ${decDeg}`, `CRPIX1  = ${side / 2}`, `CRPIX2  = ${side / 2}`, `CDELT1  = ${-widthDeg / side}`, `CDELT2  = ${widthDeg / side}`, `IMAGEW  = ${side}`, `IMAGEH  = ${side}`].join('\n'); // prettier-ignore
  const solution = room.getByLabel('Or its plate solution, as FITS cards');
  const given = (name: string, words: string) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(words) });
  await solution.setInputFiles(given('other.wcs', cards(900).replace('IMAGEH  = 900', 'IMAGEH  = 300')));
  await expect(room.getByRole('alert')).toContainText('other.wcs: These cards belong to a frame of 900 × 300 pixels');
  // The picture itself is seen.
  await expect.poll(() => room.getByRole('img', { name: 'sword.png' }).evaluate((img: HTMLImageElement) => img.naturalWidth)).toBe(96); // prettier-ignore
  await solution.setInputFiles(given('sword.wcs', cards(900)));
  await expect(room.getByRole('status')).toContainText('at 0.0°');
  await room.getByRole('button', { name: 'Place it again' }).click();
  const around = await (await page.request.get(urlOf(`/api/catalogue/around?raDeg=${raDeg}&decDeg=${decDeg}&radiusDeg=2`))).json(); // prettier-ignore
  const [first] = around.stars as [number, number, number][];
  const second = around.stars.find(([ra, dec]: [number, number]) => Math.hypot(ra - first[0], dec - first[1]) > 1);
  const shown = room.getByRole('img', { name: 'sword.png' });
  const sky = page.getByRole('application', { name: /Sky around/ });
  for (const [ra, dec] of [first, second]) {
    // So near the equator and the centre right ascension and declination are the plane's own coordinates.
    const share = {
      x: 0.5 - ((ra - raDeg) * Math.cos((dec * Math.PI) / 180)) / widthDeg,
      y: (decDeg - dec) / widthDeg,
    };
    const inPicture = (await shown.boundingBox())!;
    await shown.click({ position: { x: share.x * inPicture.width, y: (share.y + 0.5) * inPicture.height } });
    await expect(room.getByRole('status')).toContainText('on the sky');
    await sky.scrollIntoViewIfNeeded();
    const onSky = (await sky.boundingBox())!;
    await page.mouse.click(onSky.x + share.x * onSky.width, onSky.y + onSky.height / 2 + share.y * onSky.width);
  }
  await room.getByRole('button', { name: 'Frame the same' }).click();
  await expect.poll(() => Math.abs(Number(new URL(page.url()).searchParams.get('dec')) - decDeg)).toBeLessThan(0.1);
  await expect
    .poll(() => Math.abs(((Number(new URL(page.url()).searchParams.get('angle')) + 180) % 360) - 180))
    .toBeLessThan(4);
});
