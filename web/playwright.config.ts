import { defineConfig } from '@playwright/test';

/** The tests drive the real page on the real server; ./test starts both and says where. */
export default defineConfig({
  testDir: 'e2e',
  timeout: 180_000,
  expect: { timeout: 15_000 },
  globalSetup: './e2e/warmUp.ts',
  fullyParallel: true,
  workers: 2,
  projects: [
    { name: 'stories', grepInvert: /@alone/ },
    // These stop the database, restore the demo, or act at random: the others are not to be disturbed.
    { name: 'alone', grep: /@alone/, workers: 1 },
  ],
  // Drawing in software on two cores can stall for seconds; ./test names what needed a second try.
  retries: 2,
  reporter: process.env['PLAYWRIGHT_JSON_OUTPUT_FILE'] ? [['list'], ['json']] : 'list',
  use: {
    // A press may wait for shaders that are made in software.
    actionTimeout: 45_000,
    baseURL: process.env['CALM_PIVOT_URL'] ?? 'http://127.0.0.1:5080',
    viewport: { width: 1280, height: 800 },
    // Pictures are drawn in software: a sixteenth of the pixels, where a test does not look at them.
    deviceScaleFactor: 0.25,
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        // Four samples a pixel take twice the time in software.
        '--webgl-antialiasing-mode=none',
        // By Mesa, which takes half of the time, or less, that the drawing library takes that the browser brings along.
        '--use-gl=angle',
        '--use-angle=gl-egl',
        '--ignore-gpu-blocklist',
        // The page beside the pictures is small, and put together sooner without.
        '--disable-gpu-rasterization',
        '--disable-gpu-compositing',
      ],
      env: {
        ...process.env,
        EGL_PLATFORM: 'surfaceless',
        LIBGL_ALWAYS_SOFTWARE: '1',
        // In the thread that asks for it: two workers fill two processors.
        LP_NUM_THREADS: '0',
        // So small a picture is sooner drawn than its shaders are made well: those of two hundred lamps take minutes else.
        GALLIVM_PERF: 'nopt',
      },
    },
  },
});
