/** Uncompressed baseline RGB TIFF (Adobe, "TIFF Revision 6.0", 1992): a file that can be filled row by row. */

/**
 * Everything before the pixels. The rows follow at once: interleaved RGB, little-endian, no padding.
 * @param bits 8 or 16 per channel
 * @param profile ICC profile to embed (tag 34675, ICC.1:2010 annex B.4)
 * @throws RangeError when the file would pass the 4 GiB that TIFF can address
 */
export function tiffHeader(width: number, height: number, bits: 8 | 16, profile: Uint8Array): Uint8Array {
  const SHORT = 3;
  const LONG = 4;
  const UNDEFINED = 7;
  const pixelBytes = (width * height * 3 * bits) / 8;
  const entries = 11;
  const directory = 8;
  const bitsAt = directory + 2 + entries * 12 + 4;
  const profileAt = bitsAt + 6;
  const pixelsAt = Math.ceil((profileAt + profile.length) / 16) * 16;
  if (pixelsAt + pixelBytes > 0xffffffff)
    throw new RangeError(`The picture is too large for a TIFF file: it takes ${pixelsAt + pixelBytes} bytes of ${0xffffffff}`);

  const bytes = new Uint8Array(pixelsAt);
  const view = new DataView(bytes.buffer);
  bytes.set([0x49, 0x49, 42, 0]);
  view.setUint32(4, directory, true);
  view.setUint16(directory, entries, true);
  let at = directory + 2;
  const entry = (tag: number, type: number, count: number, value: number): void => {
    view.setUint16(at, tag, true);
    view.setUint16(at + 2, type, true);
    view.setUint32(at + 4, count, true);
    view.setUint32(at + 8, value, true);
    at += 12;
  };
  entry(256, LONG, 1, width);
  entry(257, LONG, 1, height);
  entry(258, SHORT, 3, bitsAt);
  entry(259, SHORT, 1, 1); // no compression
  entry(262, SHORT, 1, 2); // RGB
  entry(273, LONG, 1, pixelsAt);
  entry(277, SHORT, 1, 3);
  entry(278, LONG, 1, height); // one strip
  entry(279, LONG, 1, pixelBytes);
  entry(284, SHORT, 1, 1); // interleaved
  entry(34675, UNDEFINED, profile.length, profileAt);
  for (let i = 0; i < 3; i++) view.setUint16(bitsAt + 2 * i, bits, true);
  bytes.set(profile, profileAt);
  return bytes;
}
