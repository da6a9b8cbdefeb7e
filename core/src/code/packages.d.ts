declare module 'jsbarcode/bin/barcodes/CODE128/CODE128_AUTO.js' {
  type Code128 = new (text: string, options: object) => { encode(): { data: string; text: string } };
  const module: Code128 | { default: Code128 };
  export default module;
}
declare module 'qrcode/lib/core/qrcode.js' {
  const QRCode: {
    create(
      text: string,
      options: { errorCorrectionLevel: 'L' | 'M' | 'Q' | 'H' },
    ): { modules: { size: number; get(row: number, column: number): number | boolean } };
  };
  export default QRCode;
}
