<script setup lang="ts">
// The range as a file: picture or table.
import { api, type RangeRequest, take } from '@/api/client'
import { save, standalone, toPng } from '@/common/picture'
import { useNotice } from '@/common/stores/notice'

const props = defineProps<{ request: RangeRequest; captions: readonly string[] }>()
const notice = useNotice()

const FILES = {
  png: 'Picture, PNG',
  svg: 'Drawing, SVG',
  figures: 'Figures, CSV',
  paths: 'Paths, CSV',
} as const
type File = keyof typeof FILES

async function content(file: File): Promise<Blob> {
  if (file === 'figures' || file === 'paths') {
    const text = await take(
      api.POST('/api/range.csv', {
        params: { query: { table: file } },
        body: props.request,
        parseAs: 'text',
      }),
    )
    return new Blob([text], { type: 'text/csv' })
  }
  const drawings = Array.from(document.querySelectorAll<SVGSVGElement>('svg[data-picture]'))
  const svg = standalone(drawings, props.captions)
  return file === 'svg' ? new Blob([svg], { type: 'image/svg+xml' }) : toPng(svg)
}

async function write(file: File) {
  try {
    const ending = file === 'png' || file === 'svg' ? `.${file}` : `-${file}.csv`
    save(`zinc-kite-range${ending}`, await content(file))
    notice.done(`${FILES[file]} is in your downloads`)
  } catch (error) {
    notice.failed(error)
  }
}
</script>

<template>
  <el-dropdown trigger="click" @command="write">
    <el-button data-test="range-export">Export</el-button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item
          v-for="(label, file) in FILES"
          :key="file"
          :command="file"
          :data-test="`export-${file}`"
        >
          {{ label }}
        </el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>
