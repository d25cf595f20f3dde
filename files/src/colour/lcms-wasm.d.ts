declare module 'lcms-wasm' {
  export interface Lcms {
    _malloc(bytes: number): number;
    _free(pointer: number): void;
    HEAPU8: Uint8Array;
    ccall(name: string, returns: 'number', types: string[], values: number[]): number;
    cmsCloseProfile(profile: number): void;
    cmsCreate_sRGBProfile(): number;
    cmsCreateLab4Profile(white: null): number;
    cmsGetColorSpaceASCII(profile: number): string;
    cmsGetProfileInfoASCII(profile: number, info: number, language: string, country: string): string;
    cmsCreateTransform(from: number, fromType: number, to: number, toType: number, intent: number, flags: number): number;
    cmsCreateProofingTransform(
      from: number,
      fromType: number,
      to: number,
      toType: number,
      proof: number,
      intent: number,
      proofIntent: number,
      flags: number,
    ): number;
    cmsDeleteTransform(transform: number): void;
    /** Samples come out as the transform's formats say. */
    cmsDoTransform<T extends Uint8Array | Uint16Array | Float32Array>(transform: number, samples: T, pixels: number): T;
  }
  export function instantiate(): Promise<Lcms>;
  export const TYPE_RGB_16: number;
  export const TYPE_RGB_8: number;
  export const TYPE_GRAY_16: number;
  export const TYPE_CMYK_16: number;
  export const INTENT_PERCEPTUAL: number;
  export const INTENT_RELATIVE_COLORIMETRIC: number;
  export const INTENT_SATURATION: number;
  export const INTENT_ABSOLUTE_COLORIMETRIC: number;
  export const cmsFLAGS_NOCACHE: number;
  export const cmsFLAGS_NOOPTIMIZE: number;
  export const cmsFLAGS_BLACKPOINTCOMPENSATION: number;
  export const cmsFLAGS_SOFTPROOFING: number;
  export const cmsInfoDescription: number;
  export const PT_RGB: number;
  export const PT_Lab: number;
  export const PT_CMYK: number;
  export function FLOAT_SH(is: number): number;
  export function COLORSPACE_SH(space: number): number;
  export function CHANNELS_SH(channels: number): number;
  export function BYTES_SH(bytes: number): number;
}
