declare module 'lcms-wasm' {
  export interface Lcms {
    cmsOpenProfileFromMem(bytes: Uint8Array, length: number): number;
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
  export const cmsInfoDescription: number;
}
