declare module 'lcms-wasm' {
  export interface Lcms {
    _malloc(bytes: number): number;
    _free(pointer: number): void;
    HEAPU8: Uint8Array;
    ccall(name: string, returns: 'number', types: string[], values: number[]): number;
    cmsCloseProfile(profile: number): void;
    cmsCreate_sRGBProfile(): number;
    cmsGetProfileInfoASCII(profile: number, info: number, language: string, country: string): string;
    cmsCreateTransform(from: number, fromType: number, to: number, toType: number, intent: number, flags: number): number;
    cmsDeleteTransform(transform: number): void;
    cmsDoTransform(transform: number, samples: Uint8Array | Uint16Array, pixels: number): Uint8Array | Uint16Array;
  }
  export function instantiate(): Promise<Lcms>;
  export const TYPE_RGB_16: number;
  export const TYPE_RGB_8: number;
  export const TYPE_GRAY_16: number;
  export const INTENT_PERCEPTUAL: number;
  export const cmsFLAGS_NOCACHE: number;
  export const cmsFLAGS_NOOPTIMIZE: number;
  export const cmsInfoDescription: number;
}
