/** What the nets are shown: windows of a picture, turned and brought to their size. Pictures are as they come in: four bytes a pixel (blue, green, red, nothing). */
'use strict';

const PIXEL = 4;

/** A picture at half its size; made once. */
function half(picture) {
  if (picture.half) return picture.half;
  const [width, height, row] = [picture.width >> 1, picture.height >> 1, PIXEL * picture.width];
  const { bgrx } = picture;
  const out = new Uint8Array(width * height * PIXEL);
  for (let y = 0, k = 0; y < height; y++) {
    for (let i = 2 * y * row, end = i + 2 * PIXEL * width; i < end; i += 2 * PIXEL, k += PIXEL) {
      out[k] = (bgrx[i] + bgrx[i + 4] + bgrx[i + row] + bgrx[i + row + 4] + 2) >> 2;
      out[k + 1] = (bgrx[i + 1] + bgrx[i + 5] + bgrx[i + row + 1] + bgrx[i + row + 5] + 2) >> 2;
      out[k + 2] = (bgrx[i + 2] + bgrx[i + 6] + bgrx[i + row + 2] + bgrx[i + row + 6] + 2) >> 2;
    }
  }
  picture.half = { bgrx: out, width, height };
  return picture.half;
}

/**
 * A square window of a picture as floats, red, green, blue: bilinear, of a smaller picture where it is made much smaller, black outside.
 *
 * @param at   middle, side and turn (radians) in the picture; mirrored: from right to left
 * @param size side of the window, pixels
 * @param tone what each of the 256 values becomes
 */
function window(picture, at, size, tone) {
  const { x, y, side, turn = 0, mirrored = false } = at;
  if (side > 1.5 * size && Math.min(picture.width, picture.height) > 2) return window(half(picture), { ...at, x: x / 2, y: y / 2, side: side / 2 }, size, tone);
  const { bgrx, width, height } = picture;
  const step = side / size;
  const [c, s] = [Math.cos(turn) * step, Math.sin(turn) * step];
  const way = mirrored ? -1 : 1;
  const row = PIXEL * width;
  const out = new Float32Array(size * size * 3);
  for (let j = 0, k = 0; j < size; j++) {
    for (let i = 0; i < size; i++, k += 3) {
      const dx = way * (i + 0.5 - size / 2);
      const dy = j + 0.5 - size / 2;
      const u = x + c * dx - s * dy - 0.5;
      const v = y + s * dx + c * dy - 0.5;
      const left = Math.floor(u);
      const top = Math.floor(v);
      if (left < -1 || top < -1 || left >= width || top >= height) {
        out[k] = out[k + 1] = out[k + 2] = tone(0);
        continue;
      }
      const a = u - left;
      const b = v - top;
      const p = (top < 0 ? 0 : top) * row + PIXEL * (left < 0 ? 0 : left);
      const q = p + (left < 0 || left + 1 >= width ? 0 : PIXEL);
      const along = top < 0 || top + 1 >= height ? 0 : row;
      const w0 = (1 - a) * (1 - b);
      const w1 = a * (1 - b);
      const w2 = (1 - a) * b;
      const w3 = a * b;
      out[k] = tone(w0 * bgrx[p + 2] + w1 * bgrx[q + 2] + w2 * bgrx[p + along + 2] + w3 * bgrx[q + along + 2]);
      out[k + 1] = tone(w0 * bgrx[p + 1] + w1 * bgrx[q + 1] + w2 * bgrx[p + along + 1] + w3 * bgrx[q + along + 1]);
      out[k + 2] = tone(w0 * bgrx[p] + w1 * bgrx[q] + w2 * bgrx[p + along] + w3 * bgrx[q + along]);
    }
  }
  return out;
}

/**
 * Places in a window, as a net tells them, back in the picture. Nets count from the middle of the first pixel.
 *
 * @param points x, y and depth in pixels of the window
 */
function back(points, { x, y, side, turn = 0, mirrored = false }, size) {
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const way = mirrored ? -1 : 1;
  return points.map(([u, v, depth]) => {
    const dx = way * (((u + 0.5) / size) * side - side / 2);
    const dy = ((v + 0.5) / size) * side - side / 2;
    return [x + c * dx - s * dy, y + s * dx + c * dy, (depth / size) * side];
  });
}

/** Pictures as they come in: a line “WIDTH HEIGHT WORD”, then four bytes a pixel. */
async function* incoming(stream) {
  let parts = [];
  let have = 0;
  let head = null;
  for await (const part of stream) {
    parts.push(part);
    have += part.length;
    while (head === null ? part.includes(10) || parts.length === 1 : have >= head.width * head.height * PIXEL) {
      const all = parts.length === 1 ? parts[0] : Buffer.concat(parts, have);
      const end = head === null ? all.indexOf(10) + 1 : head.width * head.height * PIXEL;
      [parts, have] = [[all.subarray(end)], all.length - end];
      if (head === null) {
        if (end === 0) break;
        const [width, height, word] = all.toString('latin1', 0, end - 1).split(' ');
        head = { width: Number(width), height: Number(height), word };
      } else {
        yield { ...head, bgrx: all.subarray(0, end) };
        head = null;
      }
    }
  }
}

module.exports = { window, back, incoming };
