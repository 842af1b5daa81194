<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { RouterLink, RouterView, useRoute } from 'vue-router'
import { onLoggedOut } from '@/api/client'
import { useRefresh, useSession } from '@/api/useData'
import { useOthers } from '@/api/useOthers'
import DiscDrawer from '@/bag/DiscDrawer.vue'
import LoginPanel from '@/common/LoginPanel.vue'
import NoticeBar from '@/common/NoticeBar.vue'
import { useDayInAddress } from '@/common/useDayInAddress'
import { PAGES } from '@/common/pages'
import { useLetterKeys, useShortcuts } from '@/common/useShortcuts'
import LaterBar from '@/offline/LaterBar.vue'
import LogOut from '@/offline/LogOut.vue'
import { useLogOut } from '@/offline/useLogOut'

const { helpOpen } = useShortcuts()
const letters = useLetterKeys()
const route = useRoute()
const isHere = (path: string) => route.path === path || (path !== '/' && route.path.startsWith(`${path}/`))
const session = useSession()
const refresh = useRefresh()
const out = useLogOut()
const locked = computed(
  () => out.isOut || (session.data.value?.locked === true && !session.data.value.admitted),
)
onLoggedOut(() => void session.refetch())
const canLeave = computed(() => session.data.value?.locked === true && !locked.value)
async function entered() {
  out.entered()
  await session.refetch()
  await refresh()
}
useOthers()
useDayInAddress()

const further = PAGES.filter((page) => page.further)
const moreOpen = ref(false)
watch(
  () => route.path,
  () => (moreOpen.value = false),
)
const KEYS = [
  ...PAGES.map((p) => ({ keys: p.key, what: `go to ${p.name}` })),
  { keys: '/', what: 'search the shelf' },
  { keys: '← → ↑ ↓', what: 'move between discs on the board' },
  { keys: 'Enter', what: 'open the chosen disc' },
  {
    keys: 'space',
    what: 'pick a disc up, on the board or the shelf strip; Enter moves it, Escape puts it back',
  },
  { keys: 'b', what: 'bench the chosen disc, or carry the one on the strip' },
  { keys: '1 … 6, n, x, c', what: 'range: choose, add, take away a throw, copy from a line' },
  { keys: 'z', what: 'undo the last change' },
  { keys: 'Z', what: 'do again what was undone' },
  { keys: '?', what: 'this list' },
]

const THEME_KEY = 'zinc-kite-theme'
const dark = ref(false)
onMounted(() => {
  const kept = localStorage.getItem(THEME_KEY)
  dark.value = kept ? kept === 'dark' : matchMedia('(prefers-color-scheme: dark)').matches
})
watch(dark, (on) => document.documentElement.classList.toggle('dark', on))

function toggleTheme() {
  dark.value = !dark.value
  localStorage.setItem(THEME_KEY, dark.value ? 'dark' : 'light')
}
</script>

<template>
  <a class="skip" href="#main">Skip to content</a>
  <section class="top" aria-label="Zinc Kite">
    <RouterLink class="brand" to="/">
      <svg viewBox="0 0 32 32" width="26" height="26" aria-hidden="true">
        <path d="M16 2 27 13 16 30 5 13Z" fill="currentColor" opacity="0.55" />
        <path d="M16 2 27 13H5Z" fill="currentColor" opacity="0.35" />
        <path d="M16 2v28" stroke="var(--accent)" stroke-width="2.5" />
      </svg>
      <span>Zinc Kite</span>
    </RouterLink>
    <nav aria-label="Screens">
      <RouterLink
        v-for="page in PAGES"
        :key="page.path"
        :to="page.path"
        :class="{ here: isHere(page.path), further: page.further, apart: page.apart }"
        :aria-current="isHere(page.path) ? 'page' : undefined"
        :title="`${page.name} (${page.key})`"
      >
        {{ page.name }}
      </RouterLink>
      <button
        type="button"
        class="more"
        :class="{ here: further.some((page) => isHere(page.path)) }"
        :aria-expanded="moreOpen"
        data-test="more"
        @click="moreOpen = !moreOpen"
      >
        More
      </button>
      <div v-if="moreOpen" class="menu" @click="moreOpen = false">
        <RouterLink v-for="page in further" :key="page.path" :to="page.path">{{ page.name }}</RouterLink>
        <button type="button" class="plain" @click="toggleTheme">{{ dark ? 'Light' : 'Dark' }}</button>
        <button v-if="canLeave" type="button" class="plain" @click="out.begin">Log out</button>
      </div>
    </nav>
    <span class="grow" />
    <button class="plain" type="button" @click="toggleTheme">{{ dark ? 'Light' : 'Dark' }}</button>
    <button v-if="canLeave" class="plain" type="button" data-test="log-out" @click="out.begin">
      Log out
    </button>
    <button class="plain keys-button" type="button" title="Keyboard shortcuts" @click="helpOpen = true">
      Keys
    </button>
  </section>
  <LaterBar />
  <main id="main">
    <LoginPanel v-if="locked" @entered="entered" />
    <RouterView v-else-if="session.isFetched.value" />
  </main>
  <DiscDrawer v-if="!locked" />
  <NoticeBar />
  <LogOut />
  <el-dialog v-model="helpOpen" title="Keyboard" width="420px">
    <dl class="keys">
      <template v-for="k in KEYS" :key="k.keys">
        <dt>
          <kbd>{{ k.keys }}</kbd>
        </dt>
        <dd>{{ k.what }}</dd>
      </template>
    </dl>
    <el-checkbox v-model="letters" data-test="letter-keys">
      Single keys do this. Off, only the arrows, Enter, space and Tab do anything.
    </el-checkbox>
  </el-dialog>
</template>

<style scoped>
.top {
  display: flex;
  align-items: center;
  gap: 4px 18px;
  min-height: 52px;
  padding: 0 20px;
  background: var(--panel);
  border-bottom: 2px solid var(--ink);
}
.brand {
  display: flex;
  align-items: center;
  gap: 8px;
  font-weight: 750;
  font-size: 18px;
  color: var(--ink);
  text-decoration: none;
  white-space: nowrap;
}
nav {
  display: flex;
}
nav a {
  padding: 14px 13px 12px;
  color: var(--ink);
  text-decoration: none;
  border-bottom: 4px solid transparent;
}
nav a.here {
  font-weight: 700;
  border-bottom-color: var(--accent);
}
.grow {
  flex: 1;
}
.plain {
  min-height: 40px;
  padding: 0 10px;
  background: none;
  border: 0;
  color: var(--ink-soft);
  font: inherit;
  cursor: pointer;
}
.plain:hover {
  color: var(--ink);
  text-decoration: underline;
}
.skip {
  position: absolute;
  left: -9999px;
}
.skip:focus {
  left: 8px;
  top: 8px;
  z-index: 10;
  background: var(--panel);
  padding: 8px;
}
.keys {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 8px 16px;
  margin: 0;
}
.keys dd {
  margin: 0;
}
kbd {
  padding: 2px 7px;
  border: 1px solid var(--rule);
  border-bottom-width: 3px;
  border-radius: 3px;
  font: inherit;
  white-space: nowrap;
}
.more,
.menu {
  display: none;
}
nav .apart {
  margin-left: 22px;
}
nav .apart::before {
  content: '';
  position: absolute;
  margin-left: -25px;
  width: 2px;
  height: 20px;
  background: var(--rule);
}
@media (min-width: 1000px) {
  .top {
    position: sticky;
    z-index: 6;
    top: 0;
  }
}
@media (max-width: 900px) {
  .top {
    min-height: 44px;
    padding: 0 10px;
  }
  .top > .plain {
    padding: 0 6px;
  }
  .keys-button {
    display: none;
  }
  nav {
    position: fixed;
    z-index: 20;
    inset: auto 0 0;
    padding-bottom: env(safe-area-inset-bottom);
    background: var(--panel);
    border-top: 2px solid var(--ink);
  }
  nav > a,
  .more {
    flex: 1;
    display: grid;
    place-items: center;
    min-height: 50px;
    padding: 4px 0;
    background: none;
    border: 0;
    border-top: 4px solid transparent;
    color: var(--ink);
    font: inherit;
  }
  nav > .here {
    border-bottom-color: transparent;
    border-top-color: var(--accent);
    font-weight: 700;
  }
  nav > .further {
    display: none;
  }
  .menu {
    display: grid;
    position: absolute;
    right: 0;
    bottom: 100%;
    min-width: 180px;
    background: var(--panel);
    border: 2px solid var(--ink);
  }
  .menu > * {
    display: block;
    min-height: 48px;
    padding: 12px 18px;
    color: var(--ink);
    text-align: left;
    text-decoration: none;
    border-bottom: 1px solid var(--rule-soft);
  }
  #main {
    padding-bottom: 62px;
  }
}
</style>
