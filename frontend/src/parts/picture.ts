/** Saving a drawing of the screen as a file of its own: colours of the room are written out, nothing is fetched. */

const VARIABLE = /var\((--[a-z-]+)\)/g;

function standalone(drawing: SVGSVGElement): string {
  const copy = drawing.cloneNode(true) as SVGSVGElement;
  const room = getComputedStyle(document.documentElement);
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  copy.setAttribute('font-family', 'sans-serif');
  copy.removeAttribute('class');
  const { width, height } = drawing.viewBox.baseVal;
  copy.setAttribute('width', String(width));
  copy.setAttribute('height', String(height));
  const text = new XMLSerializer().serializeToString(copy);
  return text.replace(VARIABLE, (_, name: string) => room.getPropertyValue(name).trim());
}

function save(url: string, name: string) {
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
}

function dataUrl(text: string): string {
  return `data:image/svg+xml;charset=utf-8,${encodeURIComponent(text)}`;
}

export function saveSvg(drawing: SVGSVGElement, name: string) {
  save(dataUrl(standalone(drawing)), `${name}.svg`);
}

/** Twice the drawing's own size, on the room's neutral ground. */
export async function savePng(drawing: SVGSVGElement, name: string) {
  const picture = new Image();
  picture.src = dataUrl(standalone(drawing));
  await picture.decode();
  const { width, height } = drawing.viewBox.baseVal;
  const canvas = document.createElement('canvas');
  canvas.width = 2 * width;
  canvas.height = 2 * height;
  const brush = canvas.getContext('2d');
  if (!brush) return;
  brush.fillStyle = getComputedStyle(document.documentElement).getPropertyValue('--panel').trim();
  brush.fillRect(0, 0, canvas.width, canvas.height);
  brush.drawImage(picture, 0, 0, canvas.width, canvas.height);
  save(canvas.toDataURL('image/png'), `${name}.png`);
}
