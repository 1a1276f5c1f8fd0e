/**
 * The strips in the browser over a million samples: how long until they are drawn, how much script a frame of panning costs beside uPlot
 * drawing the same traces in the same run, and how much script the workspace loads.
 */

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { chromium, type CDPSession, type Page } from '@playwright/test';
import { takeInLog } from '@/core/log/takeIn';
import { demoSite } from '@/core/simulate/demo';
import { migrate, openStore } from '@/store/database';
import { insertJob, insertSystem } from '@/store/jobs';
import { onEmptyDatabase } from '../support/setUp';
import { sendLog } from './intake';

export interface StripsMeasured {
  /** From the request of the page to the first drawn trace, ms: median of the runs. */
  firstStrips: number;
  /** Scripts that the workspace loads, compressed, kB. */
  scriptKb: number;
  /** Script per frame while panning, ms. */
  ours: number;
  uPlot: number;
  traces: number;
}

const DATABASE = 'pazienza_bench_strips';
const FRAMES = 120;
const RUNS = 5;
const WIDTH = 1280;
const TRACES = ['source_voltage', 'source_current', 'load_current', 'battery_temperature'] as const;
const FLAGS = ['--disable-background-networking', '--disable-component-update', '--disable-sync'];

export const measureStrips = (path: string): Promise<StripsMeasured> =>
  onEmptyDatabase('bench', DATABASE, async (databaseUrl, { serve, keepWorker, freePort }) => {
    const store = openStore(databaseUrl);
    await migrate(store);
    const { job, system } = demoSite('tide-gauge');
    const jobId = await insertJob(store, await insertSystem(store, system), job);
    const web = await serve({ port: await freePort(3500, 'the measured application'), databaseUrl });
    const worker = keepWorker(databaseUrl);
    const root = process.getuid?.() === 0 ? ['--no-sandbox'] : [];
    const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: [...root, ...FLAGS] });
    try {
      const { intake } = await sendLog(web.address, jobId, path);
      const context = await browser.newContext({ viewport: { width: WIDTH, height: 800 } });
      // The difference of two currents is a trace of its own, from the tiles of both.
      const of = (channel: string) => `${intake.recordingId}/${channel}`;
      const wishes = {
        shown: { difference: true },
        difference: { of: of('source_current'), less: of('load_current') },
      };
      await context.addInitScript(
        ([key, value]) => window.localStorage.setItem(key!, value!),
        [`pazienza lanes ${jobId}`, JSON.stringify(wishes)],
      );
      const page = await context.newPage();
      const address = `${web.address}/jobs/${jobId}/charging`;
      const scriptKb = await scriptsOf(page, address);
      const times: number[] = [];
      for (let run = 0; run < RUNS; run++) times.push(await firstStrips(page, address));
      const ours = await panned(page);
      const plain = await context.newPage();
      await drawWithUPlot(plain, path);
      const uPlot = await panned(plain);
      return {
        firstStrips: times.sort((a, b) => a - b)[RUNS >> 1]!,
        scriptKb,
        ours,
        uPlot,
        traces: TRACES.length + 1,
      };
    } finally {
      await browser.close();
      await worker.stop();
      await web.stop();
      await store.destroy();
    }
  });

async function scriptsOf(page: Page, address: string): Promise<number> {
  const session = await page.context().newCDPSession(page);
  await session.send('Network.enable');
  const scripts = new Set<string>();
  let bytes = 0;
  session.on('Network.responseReceived', ({ requestId, type }) => {
    if (type === 'Script') scripts.add(requestId);
  });
  session.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    if (scripts.has(requestId)) bytes += encodedDataLength;
  });
  await page.goto(address, { waitUntil: 'networkidle' });
  await session.detach();
  return bytes / 1024;
}

/** A canvas of a lane has ink on it. */
const drawn = () =>
  [...document.querySelectorAll('canvas')].some((canvas) => {
    if (canvas.width === 0 || canvas.height === 0) return false;
    const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
    return data.some((value, i) => i % 4 === 3 && value > 0);
  });

async function firstStrips(page: Page, address: string): Promise<number> {
  await page.goto('about:blank');
  const started = performance.now();
  await page.goto(address, { waitUntil: 'commit' });
  await page.waitForFunction(drawn, null, { polling: 20 });
  return performance.now() - started;
}

const metric = async (session: CDPSession, name: string): Promise<number> => {
  const { metrics } = await session.send('Performance.getMetrics');
  return metrics.find((one) => one.name === name)!.value;
};

/** Drags the plot to and fro, a step a frame. @returns script per frame, ms */
async function panned(page: Page): Promise<number> {
  const plot = page.locator('[role=application], #plots').first();
  await plot.waitFor();
  await page.waitForTimeout(1500);
  const box = (await plot.boundingBox())!;
  const session = await page.context().newCDPSession(page);
  await session.send('Performance.enable', { timeDomain: 'threadTicks' });
  const y = box.y + 60;
  await page.mouse.move(box.x + box.width / 2, y);
  await page.mouse.down();
  const before = await metric(session, 'ScriptDuration');
  for (let frame = 0; frame < FRAMES; frame++) {
    const along = Math.sin((2 * Math.PI * frame) / FRAMES) * 0.3 * box.width;
    await page.mouse.move(box.x + box.width / 2 + along, y);
    await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => done(null))));
  }
  const after = await metric(session, 'ScriptDuration');
  await page.mouse.up();
  await session.detach();
  return ((after - before) * 1000) / FRAMES;
}

/** The same traces in a plot each, six days in view, moved together by a drag. */
async function drawWithUPlot(page: Page, path: string): Promise<void> {
  const { series } = takeInLog(readFileSync(path), 'source', { device: 'solar' }, 'UTC');
  const columns = TRACES.map((channel) => series.channels[channel]!);
  const apart = columns[1]!.map((one, i) => one - columns[2]![i]!);
  const packed = [...columns, apart].map((values) =>
    Buffer.from(values.buffer, values.byteOffset, values.byteLength).toString('base64'),
  );
  await page.setContent('<div id="plots" style="width:1200px;height:560px;position:relative"></div>');
  await page.addScriptTag({ path: join(process.cwd(), 'node_modules/uplot/dist/uPlot.iife.min.js') });
  await page.evaluate(
    ({ packed, from, step }) => {
      type Plot = { setScale(key: string, range: { min: number; max: number }): void };
      const uPlot = (window as unknown as { uPlot: new (...given: unknown[]) => Plot }).uPlot;
      const plots = document.querySelector<HTMLDivElement>('#plots')!;
      const values = packed.map((text) => {
        const bytes = Uint8Array.from(atob(text), (one) => one.charCodeAt(0));
        return Array.from(new Float32Array(bytes.buffer));
      });
      const time = Array.from(values[0]!, (_, i) => (from + i * step) / 1000);
      let view = { min: time[0]!, max: time[0]! + 6 * 86_400 };
      const drawn = values.map(
        (column) =>
          new uPlot(
            {
              width: 1200,
              height: 112,
              legend: { show: false },
              cursor: { show: false },
              scales: { x: { min: view.min, max: view.max } },
              series: [{}, { stroke: 'black', width: 1 }],
            },
            [time, column],
            plots,
          ),
      );
      drawn.forEach((one) => one.setScale('x', view));
      let last: number | null = null;
      plots.addEventListener('mousedown', (event) => (last = event.clientX));
      window.addEventListener('mouseup', () => (last = null));
      window.addEventListener('mousemove', (event) => {
        if (last === null) return;
        const by = ((last - event.clientX) / 1200) * (view.max - view.min);
        last = event.clientX;
        view = { min: view.min + by, max: view.max + by };
        drawn.forEach((one) => one.setScale('x', view));
      });
    },
    { packed, from: series.time[0]!, step: 10_000 },
  );
}
