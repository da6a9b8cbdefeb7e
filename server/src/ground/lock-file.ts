import { PDFDocument, PDFName, PDFRawStream, decodePDFRawStream } from '@cantoo/pdf-lib';
import { randomBytes } from 'node:crypto';

/**
 * Locks a PDF: only who has the password can open it (ISO 32000-2, 7.6.4: AES-256, revision 6). Printing, copying, filling in and reading
 * aloud are left to whoever can; it claims PDF/A no more, which knows no locks (ISO 19005-2, 6.1.3).
 *
 * @param password at most 127 bytes of UTF-8.
 */
export async function lockFile(file: Uint8Array, password: string): Promise<Uint8Array> {
  const document = await PDFDocument.load(file, { updateMetadata: false });
  claimNoArchive(document);
  document.encrypt({
    algorithm: 'AES-256',
    userPassword: password,
    // Nobody needs to know it.
    ownerPassword: randomBytes(24).toString('base64url'),
    permissions: {
      printing: 'highResolution',
      copying: true,
      fillingForms: true,
      // ISO 14289-1, 7.16.
      contentAccessibility: true,
      modifying: false,
      annotating: false,
      documentAssembly: false,
    },
  });
  return document.save({ useObjectStreams: false, addDefaultPage: false, updateFieldAppearances: false });
}

function claimNoArchive(document: PDFDocument): void {
  const { catalog, context } = document;
  const metadata = catalog.lookup(PDFName.of('Metadata'));
  if (!(metadata instanceof PDFRawStream)) return;
  const xmp = Buffer.from(decodePDFRawStream(metadata).decode()).toString('utf8');
  if (!xmp.includes('pdfaid:')) return;
  const without = xmp
    .replace(/<pdfaid:(\w+)>[^<]*<\/pdfaid:\1>/g, '')
    .replace(/\spdfaid:\w+\s*=\s*(?:"[^"]*"|'[^']*')/g, '');
  const stream = context.stream(Buffer.from(without, 'utf8'), { Type: 'Metadata', Subtype: 'XML' });
  catalog.set(PDFName.of('Metadata'), context.register(stream));
}
