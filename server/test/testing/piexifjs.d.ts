declare module 'piexifjs' {
  type Directory = Record<number, unknown>;
  const piexif: {
    readonly ImageIFD: { readonly Make: number; readonly Orientation: number };
    readonly GPSIFD: Readonly<
      Record<'GPSLatitude' | 'GPSLatitudeRef' | 'GPSLongitude' | 'GPSLongitudeRef', number>
    >;
    dump(directories: Record<string, Directory>): string;
    insert(exif: string, jpeg: string): string;
  };
  export default piexif;
}
