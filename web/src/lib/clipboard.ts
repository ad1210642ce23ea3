/** Put text on the clipboard, also on plain http where the browser keeps its newer way shut. */
export async function copyText(text: string): Promise<boolean> {
  try {
    await navigator.clipboard.writeText(text)
    return true
  } catch {
    const area = document.createElement('textarea')
    area.value = text
    document.body.append(area)
    area.select()
    // eslint-disable-next-line @typescript-eslint/no-deprecated -- the only way on plain http
    const done = document.execCommand('copy')
    area.remove()
    return done
  }
}
