/** What a file says about itself beside its pixels, block by block as it stands there. */
export interface MetadataBlocks {
  exif: Buffer | null;
  xmp: Buffer | null;
  iptc: Buffer | null;
}

/** Blocks that are larger hold pictures of their own, or nothing that was meant. */
const LARGEST = 4 << 20;

export const blocksOf = (meta: { exif?: Buffer; xmp?: Buffer; iptc?: Buffer }): MetadataBlocks => {
  const held = (block: Buffer | undefined): Buffer | null => (block && block.length <= LARGEST ? block : null);
  return { exif: held(meta.exif), xmp: held(meta.xmp), iptc: held(meta.iptc) };
};
