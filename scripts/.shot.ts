import { chromium } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { chromiumOptions } from '/work/main/e2e/chromium.ts';
const [path, out, script = '', size='1280x800'] = process.argv.slice(2);
const base = `http://127.0.0.1:${readFileSync('/work/main/.meridiem/server-port', 'utf8').trim()}`;
const browser = await chromium.launch(chromiumOptions());
const [w,h]=size.split('x').map(Number);
const page = await (await browser.newContext({ viewport: { width: w, height: h } })).newPage();
page.on('console', (m) => { if (m.type() === 'error' || m.text().match(/^(first|improved|problem)/)) console.log('console', m.text().slice(0,300)); });
page.on('pageerror', (e) => console.log('pageerror', e.message));
await page.goto(base);
await page.getByRole('button', { name: /coordinator/i }).first().click();
await page.waitForURL(/tonight|projects/).catch(()=>{});
await page.goto(base + path);
await page.waitForLoadState('networkidle');
await page.waitForTimeout(1200);
if (script) { const fn = new Function('page', `return (async()=>{${script}})()`); const r = await fn(page); if (r!==undefined) console.log(r); await page.waitForTimeout(900); }
await page.screenshot({ path: out });
await browser.close();
