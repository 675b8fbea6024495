/** Hands a file made here or answered to a POST to the browser, under a name. */
export function download(file: Blob, name: string) {
  const a = document.createElement('a')
  a.href = URL.createObjectURL(file)
  a.download = name
  a.click()
  setTimeout(() => URL.revokeObjectURL(a.href), 10_000)
}
