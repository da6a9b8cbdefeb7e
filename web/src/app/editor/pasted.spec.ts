import { linkOf } from './context-bar';
import { pastedHtml, wearLooks } from './pasted';

const squeezed = (html: string): string => pastedHtml(html).replace(/\s*\n\s*/g, '');

// The form in which word processors put text on the clipboard, from memory.
test('a list that is written as paragraphs with marks becomes one, with its levels and kinds', () => {
  const item = (level: number, mark: string, text: string): string =>
    `<p class=MsoListParagraph style='margin-left:36pt;mso-list:l0 level${level} lfo1'><![if !supportLists]><span style='font-family:Symbol'><span style='mso-list:Ignore'>${mark}<span style='font:7.0pt "Times New Roman"'>&nbsp;&nbsp;</span></span></span><![endif]>${text}<o:p></o:p></p>`;
  expect(
    squeezed(
      `<p class=MsoNormal>Before</p>${item(1, '·', 'One')}${item(2, 'a)', 'Inner')}${item(1, '·', 'Two')}<p>Between</p>${item(1, '1.', 'First')}`,
    ).replace(/<\/?span>/g, ''),
  ).toBe(
    '<p>Before</p><ul><li><p>One</p><ol><li><p>Inner</p></li></ol></li><li><p>Two</p></li></ul><p>Between</p><ol><li><p>First</p></li></ol>',
  );
});

test('structure stays, looks go', () => {
  expect(
    squeezed(
      '<style>p{}</style><h1 style="color:red;text-align:center">Head</h1><h5>Small head</h5><p class="MsoTitle" style="font-size:40pt">T</p>' +
        '<p style="font-family:X"><span style="font-weight:700;color:#123">bold</span> <span style="font-style:italic">it</span> <span style="text-decoration:underline">un</span><font color="red">f</font></p>',
    ),
  ).toBe(
    '<h1 data-look="text-align: center">Head</h1><h3>Small head</h3><p data-style="title">T</p>' +
      '<p><span><strong>bold</strong></span> <span><em>it</em></span> <span><u>un</u></span>f</p>',
  );
});

test('a wrapper that only looks bold is none, pictures from elsewhere stay away, quotations are kept', () => {
  expect(
    squeezed(
      '<b style="font-weight:normal" id="wrapper"><p>a</p></b><img src="http://a.example/x.png"><blockquote>said</blockquote><blockquote><p>one</p><p>two</p></blockquote>',
    ),
  ).toBe(
    '<p>a</p><p data-style="quotation">said</p><p data-style="quotation">one</p><p data-style="quotation">two</p>',
  );
});

test('tables and links keep what they mean', () => {
  expect(
    squeezed(
      '<table width="100" border=1><tr><td colspan="2" style="background:red" onclick="x()">a</td></tr></table><a href="https://a.example" target="_blank" style="text-decoration:underline">l</a>',
    ),
  ).toBe('<table><tbody><tr><td colspan="2">a</td></tr></tbody></table><a href="https://a.example">l</a>');
});

test('what was copied here stays as it is', () => {
  const own = '<p data-pm-slice="1 1 []" style="color:red">a</p>';
  const element = document.createElement('div');
  element.innerHTML = pastedHtml(own);
  // Told as data, since the page lets no style in HTML through, and put on where it is read.
  expect(element.innerHTML).toBe('<p data-pm-slice="1 1 []" data-look="color:red">a</p>');
  wearLooks(element);
  expect(element.querySelector('p')!.style.color).toBe('red');
  expect(pastedHtml('<p>is style=5 a style="x"?</p>')).toBe('<p>is style=5 a style="x"?</p>');
});

test.each([
  ['www.thistlequay.example/bridge', 'https://www.thistlequay.example/bridge'],
  [' https://a.example ', 'https://a.example'],
  ['office@thistlequay.example', 'mailto:office@thistlequay.example'],
  ['mailto:a@b.example', 'mailto:a@b.example'],
  ['', ''],
  ['javascript:alert(1)', null],
  ['a word', null],
  ['word', null],
])('the address %s is %s', (typed, href) => {
  expect(linkOf(typed)).toBe(href);
});
