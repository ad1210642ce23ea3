/** A random id, also where `crypto.randomUUID` is missing: a tablet on plain http in the van. */
export function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16))
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('')
}
