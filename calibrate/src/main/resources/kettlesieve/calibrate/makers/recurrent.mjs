// Reads float samples at 48 kHz from one file and writes them suppressed to another.
import { readFileSync, writeFileSync } from 'node:fs';
import { pathToFileURL } from 'node:url';

const [library, from, to] = process.argv.slice(2);
const { default: create } = await import(pathToFileURL(library).href);
const module = create();
await module.ready;
const bytes = readFileSync(from);
const samples = new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length / 4);
const size = 480;
const state = module._rnnoise_create();
const at = module._malloc(4 * size);
const out = new Float32Array(samples.length);
for (let start = 0; start < samples.length; start += size) {
  const heap = module.HEAPF32.subarray(at / 4, at / 4 + size);
  for (let i = 0; i < size; i++) heap[i] = 32768 * (samples[start + i] ?? 0);
  module._rnnoise_process_frame(state, at, at);
  for (let i = 0; i < size && start + i < out.length; i++) out[start + i] = module.HEAPF32[at / 4 + i] / 32768;
}
writeFileSync(to, Buffer.from(out.buffer));
