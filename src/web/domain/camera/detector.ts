import readerUrl from 'zxing-wasm/reader/zxing_reader.wasm?url';

/** What labels carry: the code Malle prints, and the stripes of other printers. */
const FORMATS = ['qr_code', 'code_128'] as const;

/** Reads the codes in a picture. */
export interface CodeReader {
  readonly read: (picture: HTMLVideoElement) => Promise<readonly string[]>;
}

/** The part of the platform's own detector that is used here; not every browser has it. */
interface PlatformDetector {
  new (options: { formats: readonly string[] }): {
    detect(picture: HTMLVideoElement): Promise<readonly { readonly rawValue: string }[]>;
  };
  getSupportedFormats(): Promise<readonly string[]>;
}

/** The platform's detector where it reads both kinds, else one that ships with the application. */
export async function codeReader(): Promise<CodeReader> {
  const platform = (globalThis as { BarcodeDetector?: PlatformDetector }).BarcodeDetector;
  const known = (await platform?.getSupportedFormats().catch(() => [])) ?? [];
  const Detector =
    platform && FORMATS.every((format) => known.includes(format)) ? platform : await shippedDetector();
  const detector = new Detector({ formats: FORMATS });
  return {
    read: async (picture) => (await detector.detect(picture)).map(({ rawValue }) => rawValue),
  };
}

async function shippedDetector(): Promise<PlatformDetector> {
  const { BarcodeDetector, prepareZXingModule } = await import('barcode-detector/ponyfill');
  // By itself it would be fetched from elsewhere.
  prepareZXingModule({ overrides: { locateFile: () => readerUrl } });
  return BarcodeDetector as unknown as PlatformDetector;
}
