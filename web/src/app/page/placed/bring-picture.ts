import type { PictureAsset } from '@scriptum/core/contract';
import { from, switchMap, type Observable } from 'rxjs';
import type { Api } from '../../api/api';
import { forPage } from '../../ui/picture-files';

/** A picture of the folio, and its width by its height. */
export interface Brought {
  readonly picture: PictureAsset;
  readonly ratio: number;
}

/** Brings a picture into a folio, as small as paper needs it. */
export const bringPicture = (api: Api, folioId: string, file: File): Observable<Brought> =>
  from(forPage(file)).pipe(
    switchMap(async (small) => ({ small, ratio: await ratioOf(small) })),
    switchMap(({ small, ratio }) =>
      api.addPicture(folioId, small).pipe(switchMap(async (picture) => ({ picture, ratio }))),
    ),
  );

/** Its width by its height, as the browser reads it. */
async function ratioOf(file: File): Promise<number> {
  const url = URL.createObjectURL(file);
  const image = new Image();
  image.src = url;
  try {
    await image.decode();
    return image.naturalWidth / image.naturalHeight || 1;
  } catch {
    return 1;
  } finally {
    URL.revokeObjectURL(url);
  }
}
