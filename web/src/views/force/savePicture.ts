import { download } from '@/parts/download'

/** What a drawing's look rests on; the rest is the browser's own. */
const kept = [
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'stroke-opacity',
  'opacity',
  'font-size',
  'font-family',
  'font-weight',
  'text-anchor',
]

/** A drawing as it looks, as a file that stands by itself. */
export function standalone(svg: SVGSVGElement): string {
  const copy = svg.cloneNode(true) as SVGSVGElement
  const from = [svg, ...svg.querySelectorAll<SVGElement>('*')]
  const to = [copy, ...copy.querySelectorAll<SVGElement>('*')]
  from.forEach((el, i) => {
    const style = getComputedStyle(el)
    to[i]?.setAttribute('style', kept.map((k) => `${k}:${style.getPropertyValue(k)}`).join(';'))
  })
  const box = svg.viewBox.baseVal
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg')
  copy.setAttribute('width', String(box.width))
  copy.setAttribute('height', String(box.height))
  return new XMLSerializer().serializeToString(copy)
}

export function saveSvg(svg: SVGSVGElement, name: string) {
  download(new Blob([standalone(svg)], { type: 'image/svg+xml' }), `${name}.svg`)
}

/** Saves a drawing as a picture, twice as fine as it is on the screen, on paper colour. */
export async function savePng(svg: SVGSVGElement, name: string) {
  const box = svg.viewBox.baseVal
  const image = new Image()
  image.src = 'data:image/svg+xml;charset=utf-8,' + encodeURIComponent(standalone(svg))
  await image.decode()
  const canvas = document.createElement('canvas')
  canvas.width = box.width * 2
  canvas.height = box.height * 2
  const ctx = canvas.getContext('2d')
  if (!ctx) return
  ctx.fillStyle = getComputedStyle(document.querySelector('.v-application') ?? document.body).backgroundColor
  ctx.fillRect(0, 0, canvas.width, canvas.height)
  ctx.drawImage(image, 0, 0, canvas.width, canvas.height)
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'))
  if (blob) download(blob, `${name}.png`)
}
