// Pictures of a page as files: SVG that stands alone, PNG drawn from it.

const LOOK = [
  'fill',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'opacity',
  'font-family',
  'font-size',
  'font-weight',
  'text-anchor',
]

/** Writes the look that a page's styles give to `from` into the attributes of its copy `to`, and so on inward. */
function freeze(from: Element, to: Element) {
  const style = getComputedStyle(from)
  for (const name of LOOK) to.setAttribute(name, style.getPropertyValue(name))
  to.removeAttribute('class')
  Array.from(from.children).forEach((child, k) => {
    const copy = to.children[k]
    if (copy) freeze(child, copy)
  })
}

/** Several drawings of a page side by side as one SVG, with lines of text under them. */
export function standalone(drawings: readonly SVGSVGElement[], lines: readonly string[]): string {
  const GAP = 24
  const LINE = 18
  const page = getComputedStyle(document.documentElement)
  const sizes = drawings.map((d) => ({ w: d.viewBox.baseVal.width, h: d.viewBox.baseVal.height }))
  const width = sizes.reduce((sum, s) => sum + s.w + GAP, GAP)
  const tallest = Math.max(0, ...sizes.map((s) => s.h))
  const height = tallest + 2 * GAP + LINE * lines.length
  const svg = document.createElementNS('http://www.w3.org/2000/svg', 'svg')
  svg.setAttribute('xmlns', 'http://www.w3.org/2000/svg')
  svg.setAttribute('viewBox', `0 0 ${width} ${height}`)
  svg.setAttribute('width', `${width}`)
  svg.setAttribute('height', `${height}`)
  const make = (name: string, attributes: Record<string, string | number>) => {
    const e = document.createElementNS('http://www.w3.org/2000/svg', name)
    for (const [key, value] of Object.entries(attributes)) e.setAttribute(key, `${value}`)
    svg.append(e)
    return e
  }
  make('rect', { width, height, fill: page.getPropertyValue('--panel').trim() })
  let x = GAP
  drawings.forEach((drawing, k) => {
    const group = make('g', { transform: `translate(${x} ${GAP + tallest - (sizes[k]?.h ?? 0)})` })
    for (const child of Array.from(drawing.children)) {
      const copy = child.cloneNode(true) as Element
      freeze(child, copy)
      group.append(copy)
    }
    x += (sizes[k]?.w ?? 0) + GAP
  })
  lines.forEach((text, k) => {
    const e = make('text', {
      x: GAP,
      y: tallest + 2 * GAP + LINE * k,
      fill: page.getPropertyValue('--ink').trim(),
      'font-family': 'sans-serif',
      'font-size': 14,
    })
    e.textContent = text
  })
  return new XMLSerializer().serializeToString(svg)
}

/** An SVG drawn at twice its size. */
export async function toPng(svg: string): Promise<Blob> {
  const url = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }))
  try {
    const image = new Image()
    image.src = url
    await image.decode()
    const canvas = document.createElement('canvas')
    canvas.width = 2 * image.width
    canvas.height = 2 * image.height
    canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height)
    return await new Promise<Blob>((done, failed) =>
      canvas.toBlob((b) => (b ? done(b) : failed(new Error('The browser drew no picture.'))), 'image/png'),
    )
  } finally {
    URL.revokeObjectURL(url)
  }
}

/** Hands a file to the user. */
export function save(name: string, content: Blob) {
  const url = URL.createObjectURL(content)
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(url), 10_000)
}
