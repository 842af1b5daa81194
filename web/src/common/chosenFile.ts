/** The file that was chosen; the same one chosen again is another look. */
export function chosenFile(event: Event): File | undefined {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  return file
}
