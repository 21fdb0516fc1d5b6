// Runs the browser's port of the live rules over frames that Python wrote: node port.mjs MODULE FRAMES > answers as JSON lines.
import { readFileSync } from 'node:fs';
import { pathToFileURL } from 'node:url';

const { Session } = await import(pathToFileURL(process.argv[2]).href);
const bytes = readFileSync(process.argv[3]);
let at = 0;
const take = (length) => bytes.subarray(at, (at += length));
const picture = () => {
  const [width, height] = [take(4).readUInt32LE(), take(4).readUInt32LE()];
  return { data: take(width * height * 4), width, height };
};
let session = new Session();
let spent = 0;
let frames = 0;
while (at < bytes.length) {
  const first = take(4).readUInt32LE();
  const seconds = take(8).readDoubleLE();
  if (first) session = new Session();
  const reduced = picture();
  const sharp = picture();
  const started = performance.now();
  const answer = session.see(reduced, () => sharp, seconds);
  spent += performance.now() - started;
  console.log(JSON.stringify(answer));
  frames += 1;
}
console.error(`${(spent / frames).toFixed(1)} ms a frame`);
