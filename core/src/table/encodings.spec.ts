import iconv from 'iconv-lite';
import { readCsv } from './csv.js';
import { decodeBytes, detectEncoding, ENCODINGS, type EncodingName } from './encodings.js';

/** A list of names as schools have them, made up, in each language. */
const LISTS: Readonly<Record<string, string>> = {
  western:
    'Prénom,Nom,Remarque\nZoë,Lefèvre,Très bien réussi; à répéter\nJürgen,Müßig,Größe und Übung\nIñaki,Peña,¿Cuándo? Mañana\nSøren,Ærø,Blåbærgrød\nAmélie,Bérénice,Élève sérieuse et appliquée\n',
  central:
    'Imię,Nazwisko,Uwaga\nŁukasz,Wiśniewski,Bardzo dobrze się uczy i pracuje\nZdzisława,Żółć,Gęślą jaźń zażółcić\nJiří,Dvořák,Žluťoučký kůň úpěl ďábelské ódy\nGyörgy,Kőrösi,Árvíztűrő tükörfúrógép\n',
  cyrillic:
    'Имя,Фамилия,Отзыв\nАнна,Иванова,Очень хорошая работа, продолжай\nПётр,Щукин,Нужно больше читать и писать\nОльга,Черненко,Работает внимательно\n',
  greek:
    'Όνομα,Επώνυμο,Σχόλιο\nΓεωργία,Παππά,Πολύ καλή δουλειά σε όλα τα μαθήματα\nΔημήτρης,Ξένος,Χρειάζεται περισσότερη μελέτη στο σπίτι\n',
  turkish:
    'Ad,Soyad,Not\nAyşe,Yıldız,Çok başarılı bir öğrenci ve çalışkan\nİbrahim,Öztürk,Daha çok çalışması gerekiyor değil mi\nGülşah,Ağaoğlu,Işık ışığı görür\n',
  baltic:
    'Vārds,Uzvārds,Piezīme\nJānis,Bērziņš,Ļoti labs darbs\nŽivilė,Žukauskaitė,Šaunuolė, dirba kruopščiai\nĢirts,Kļaviņš,Jāmācās vairāk\n',
  hebrew: 'שם,כיתה,הערה\nנועם בן-ארי,ח1,עבודה טובה מאוד וכל הכבוד\nשירה כהן,ח2,צריכה לקרוא יותר בבית\n',
  arabic:
    'الاسم,الصف,ملاحظة\nمحمد السعدي,الثامن,عمل ممتاز ومشاركة جيدة في الصف\nليلى حداد,الثامن,تحتاج إلى مزيد من القراءة في البيت\n',
  japanese:
    '名前,組,所見\n山田太郎,一組,とても良くできました。これからも頑張ってください。\n佐藤花子,二組,漢字の練習をもう少ししましょう。\n鈴木一郎,一組,発表が上手になりました。\n',
  korean:
    '이름,반,의견\n김서연,가,수업에 아주 성실하게 참여합니다.\n이민준,나,조금 더 연습이 필요합니다. 집에서도 복습하세요.\n박지우,가,발표를 잘했습니다.\n',
  simplified:
    '姓名,班级,评语\n王小明,一班,学习认真,作业完成得很好。\n李娜,二班,需要多练习写字和阅读。\n张伟,一班,上课发言很积极。\n',
  traditional:
    '姓名,班級,評語\n王小明,一班,學習認真,作業完成得很好。\n陳雅婷,二班,需要多練習寫字和閱讀。\n林志豪,一班,上課發言很積極。\n',
};
const WRITTEN: readonly (readonly [EncodingName, string])[] = [
  ['utf-8', 'western'],
  ['utf-8', 'japanese'],
  ['utf-16le', 'central'],
  ['utf-16be', 'western'],
  ['windows-1252', 'western'],
  ['macintosh', 'western'],
  ['cp850', 'western'],
  ['windows-1250', 'central'],
  ['iso-8859-2', 'central'],
  ['windows-1251', 'cyrillic'],
  ['windows-1253', 'greek'],
  ['windows-1254', 'turkish'],
  ['windows-1255', 'hebrew'],
  ['windows-1256', 'arabic'],
  ['koi8-r', 'cyrillic'],
  ['shift_jis', 'japanese'],
  ['euc-jp', 'japanese'],
  ['euc-kr', 'korean'],
  ['gb18030', 'simplified'],
  ['big5', 'traditional'],
];
/** `iconv-lite` has its own tables, and calls one of them otherwise. */
const encode = (text: string, encoding: EncodingName): Uint8Array =>
  new Uint8Array(iconv.encode(text, encoding === 'macintosh' ? 'macroman' : encoding));
let ids = 0;
const read = (bytes: Uint8Array, encoding?: EncodingName) => {
  const sheet = readCsv(bytes, () => `c${++ids}`, encoding ? { encoding } : {});
  if (!sheet.ok) throw new Error(sheet.problem.message);
  return sheet.value;
};

test.each(WRITTEN)('%s is recognised in a list in %s, and read as iconv-lite wrote it', (encoding, list) => {
  const bytes = encode(LISTS[list]!, encoding);
  expect(detectEncoding(bytes).encoding).toBe(encoding);
  const { rows, notes } = read(bytes);
  expect([rows[0]!.join(), ...rows.slice(1).map((row) => row.join())]).toEqual(
    read(new TextEncoder().encode(LISTS[list]!)).rows.map((row) => row.join()),
  );
  const said = notes.filter(({ code }) => code === 'encoding-guessed');
  expect(said).toHaveLength(encoding.startsWith('utf') ? 0 : 1);
});

test.each(ENCODINGS.map(({ id }) => id))('what %s writes is read again where it is chosen', (encoding) => {
  const list =
    { 'windows-1257': 'baltic', 'iso-8859-15': 'western' }[encoding as string] ??
    WRITTEN.find(([one]) => one === encoding)![1];
  expect(decodeBytes(encode(LISTS[list]!, encoding), encoding).replace(/^\ufeff/, '')).toBe(LISTS[list]);
  // All signs of one byte that iconv-lite knows.
  if (/^(?:windows|iso|mac|cp)/.test(encoding)) {
    const all = Uint8Array.from({ length: 128 }, (_, n) => n + 128);
    const theirs = iconv.decode(Buffer.from(all), encoding === 'macintosh' ? 'macroman' : encoding);
    Array.from(decodeBytes(all, encoding)).forEach((sign, n) => {
      // Where a byte has no meaning, decoders give a control sign, a question mark or U+FFFD; Mac OS 8.5 gave ¤ to the euro.
      if (!/[\u0080-\u009f\ufffd?¤€]/.test(theirs[n]!) && !/[\u0080-\u009f\ufffd\uf8ff]/.test(sign))
        expect([n, sign.normalize()]).toEqual([n, theirs[n]!.normalize()]);
    });
  }
});

test('one bad byte in UTF-8 is noted with its row, and garbles nothing else', () => {
  const text = new TextEncoder().encode(LISTS['western']!);
  const broken = new Uint8Array([...text.subarray(0, 45), 0xe9, ...text.subarray(45)]);
  const { rows, notes } = read(broken);
  expect(rows[1]).toEqual(['Jürgen', 'Müßig', 'Größe und Übung']);
  expect(notes.map(({ code, rows: where }) => [code, where])).toEqual([['letters-lost', [2]]]);
});

test('plain text and valid UTF-8 are not guesses', () => {
  expect(detectEncoding(new TextEncoder().encode('Name,Mark\nMina,7\n')).how).toBe('plain');
  expect(detectEncoding(new TextEncoder().encode('Zoë')).how).toBe('certain');
});
