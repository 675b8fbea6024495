/** A photo is sent no larger than this, in pixels of its longer side: a telephone's own would take a thin line minutes. */
const LONGEST = 1024

/** A photo made smaller and turned upright; one the browser cannot read goes as it is, for the server to judge. */
export async function shrink(file: File): Promise<Blob> {
  const picture = await createImageBitmap(file).catch(() => undefined)
  if (!picture) return file
  const by = Math.min(1, LONGEST / Math.max(picture.width, picture.height))
  const canvas = new OffscreenCanvas(Math.round(picture.width * by), Math.round(picture.height * by))
  const paint = canvas.getContext('2d')
  if (!paint) return file
  paint.fillStyle = '#fff'
  paint.fillRect(0, 0, canvas.width, canvas.height)
  paint.drawImage(picture, 0, 0, canvas.width, canvas.height)
  picture.close()
  return canvas.convertToBlob({ type: 'image/jpeg', quality: 0.9 })
}
