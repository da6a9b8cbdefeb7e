// Puts a form of Scriptum into a page: <script src="…/families/embed.js" data-form="…"></script>
(() => {
  const here = document.currentScript;
  const origin = new URL(here.src).origin;
  const frame = document.createElement('iframe');
  frame.src = `${origin}/f/${encodeURIComponent(here.dataset.form)}`;
  frame.title = here.dataset.title || 'Form';
  frame.style.cssText = 'width:100%;min-height:480px;border:0';
  here.after(frame);
  addEventListener('message', ({ source, origin: from, data }) => {
    const height = Number(data && data.formHeight);
    if (source === frame.contentWindow && from === origin && height > 0)
      frame.style.height = `${Math.min(height, 20000)}px`;
  });
})();
