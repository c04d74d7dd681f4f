import { create } from 'qrcode';

/**
 * An address as a QR code (ISO/IEC 18004), drawn as SVG with the quiet zone of four modules that it
 * needs around it.
 */
export function qrImage(address: string): Uint8Array {
  const { modules } = create(address, { errorCorrectionLevel: 'M' });
  const quiet = 4;
  const side = modules.size + 2 * quiet;
  const dark = Array.from(modules.data, (isDark, at) =>
    isDark
      ? `M${quiet + (at % modules.size)} ${quiet + Math.floor(at / modules.size)}h1v1h-1z`
      : '',
  ).join('');
  return new TextEncoder().encode(
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${side} ${side}"` +
      ` width="${side}" height="${side}">` +
      `<rect width="${side}" height="${side}" fill="#fff"/><path d="${dark}" fill="#000"/>` +
      '</svg>',
  );
}
