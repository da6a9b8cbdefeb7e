import { TestBed } from '@angular/core/testing';
import { MessageView } from './message-view';

async function shown(html: string): Promise<HTMLElement> {
  const fixture = TestBed.createComponent(MessageView);
  fixture.componentRef.setInput('html', html);
  await fixture.whenStable();
  return (fixture.nativeElement as HTMLElement).shadowRoot!.firstElementChild as HTMLElement;
}

test('shows the message with its styles, in its language', async () => {
  const box = await shown(
    '<!doctype html><html lang="de-DE"><head><title>x</title></head><body><div style="color: rgb(1, 2, 3)"><ol start="4"><li>eins</li></ol></div></body></html>',
  );
  expect(box.lang).toBe('de-DE');
  expect((box.firstElementChild as HTMLElement).style.color).toBe('rgb(1, 2, 3)');
  expect(box.querySelector('ol')!.getAttribute('start')).toBe('4');
});

test('nothing active is shown, whatever stands in it', async () => {
  const box = await shown(
    '<body><script>1</script><img src="x" onerror="1"><p onclick="1">a<iframe></iframe></p><a href="javascript:1">b</a><style>p{}</style></body>',
  );
  expect(box.innerHTML).toBe(
    '<p style="">a</p><a style="color: rgb(11, 79, 138); text-decoration: underline;" title="javascript:1">b</a>',
  );
});
