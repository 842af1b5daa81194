<script setup lang="ts">
// What the board shows: in which style, and where the discs would sit otherwise; and the board as a file or on paper.
import type { Board, Ghosts } from '@/api/client'
import { boardSvg } from '@/bag/picture'
import { save, toPng } from '@/common/picture'
import { useNotice } from '@/common/stores/notice'
import { useUnits } from '@/api/useData'
import { shown } from '@/common/units'

const props = defineProps<{ board: Board; name: string; kinds: readonly Ghosts[] }>()
const style = defineModel<'backhand' | 'forehand'>('throws', { required: true })
const ghost = defineModel<'none' | Ghosts['kind']>('ghost', { required: true })
const notice = useNotice()
const units = useUnits()

const GHOSTS: Record<Ghosts['kind'], string> = {
  ahead: 'in a headwind',
  behind: 'in a tailwind',
  worn: 'one grade more worn',
}
const wind = (kind: Ghosts['kind']) => {
  const m_s = props.kinds.find((k) => k.kind === kind)?.wind_m_s
  return m_s == null ? '' : ` of ${shown(units.value, 'speed', m_s, 0)}`
}

async function write(file: 'svg' | 'png' | 'print') {
  if (file === 'print') return window.print()
  try {
    const svg = boardSvg(props.board, props.name, units.value)
    const content = file === 'svg' ? new Blob([svg], { type: 'image/svg+xml' }) : await toPng(svg)
    save(
      `${
        props.name
          .trim()
          .replace(/[^\p{L}\p{N}]+/gu, '-')
          .toLowerCase() || 'bag'
      }-board.${file}`,
      content,
    )
    notice.done(`The board is in your downloads, as ${file.toUpperCase()}`)
  } catch (error) {
    notice.failed(error)
  }
}
</script>

<template>
  <div class="tools">
    <el-radio-group v-model="style" aria-label="Thrown" data-test="board-style">
      <el-radio-button value="backhand">Backhand</el-radio-button>
      <el-radio-button value="forehand">Forehand</el-radio-button>
    </el-radio-group>
    <el-select v-model="ghost" aria-label="Also show" data-test="ghosts">
      <el-option value="none" label="as they are today" />
      <el-option
        v-for="(label, kind) in GHOSTS"
        :key="kind"
        :value="kind"
        :label="`and ${label}${wind(kind)}`"
      />
    </el-select>
    <el-dropdown trigger="click" @command="write">
      <el-button data-test="board-export">Export</el-button>
      <template #dropdown>
        <el-dropdown-menu>
          <el-dropdown-item command="png" data-test="board-png">Picture, PNG</el-dropdown-item>
          <el-dropdown-item command="svg" data-test="board-svg">Drawing, SVG</el-dropdown-item>
          <el-dropdown-item command="print" data-test="board-print">Print on one page</el-dropdown-item>
        </el-dropdown-menu>
      </template>
    </el-dropdown>
  </div>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: center;
}
.tools .el-select {
  width: 226px;
  max-width: 100%;
}
</style>
