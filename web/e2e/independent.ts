import { readFileSync } from 'node:fs';
import type { BrowserContext, Page } from '@playwright/test';

/** A page that knows nothing of ours: it draws files by three's own reader of glTF, with their lamps and their first camera (`draw`). */
export async function independentPage(context: BrowserContext): Promise<Page> {
  const page = await context.newPage();
  await page.route('**/independent/**', (route) => {
    const { pathname } = new URL(route.request().url());
    const file = pathname.split('/independent/')[1]!;
    if (file === 'page.html') return route.fulfill({ contentType: 'text/html', body: reader });
    return route.fulfill({ contentType: 'text/javascript', body: readFileSync(`node_modules/three/${file}`, 'utf8') });
  });
  await page.goto('/independent/page.html');
  return page;
}

const reader = `<!doctype html>
<script type="importmap">{"imports":{"three":"/independent/build/three.module.js"}}</script>
<script type="module">
import * as three from 'three';
import { GLTFLoader } from '/independent/examples/jsm/loaders/GLTFLoader.js';
window.draw = async (file, strength, width, height) => {
  const renderer = new three.WebGLRenderer({ antialias: true, preserveDrawingBuffer: true });
  renderer.setPixelRatio(1);
  renderer.setSize(width, height, false);
  const { scene: things, cameras } = await new GLTFLoader().loadAsync(file);
  const scene = new three.Scene().add(things);
  const white = new three.DataTexture(new Float32Array(4 * 8).fill(1), 4, 2, three.RGBAFormat, three.FloatType);
  white.mapping = three.EquirectangularReflectionMapping;
  white.needsUpdate = true;
  scene.environment = white;
  scene.environmentIntensity = strength;
  scene.background = new three.Color(0);
  renderer.toneMapping = three.NeutralToneMapping;
  cameras[0].aspect = width / height;
  cameras[0].updateProjectionMatrix();
  renderer.render(scene, cameras[0]);
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [width, height];
  const context = canvas.getContext('2d');
  context.drawImage(renderer.domElement, 0, 0);
  window.picture = renderer.domElement.toDataURL();
  return context.getImageData(0, 0, width, height).data;
};
</script>`;
