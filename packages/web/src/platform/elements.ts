import {
  ElButton,
  ElCheckbox,
  ElDialog,
  ElDropdown,
  ElDropdownItem,
  ElDropdownMenu,
  ElInput,
  ElOption,
  ElOptionGroup,
  ElPopover,
  ElProgress,
  ElSelect,
  ElTooltip,
  ElTree,
} from 'element-plus';
import { defineAsyncComponent, type App } from 'vue';
import AppDialog from './AppDialog.vue';
import { arrowKeys } from './arrow-keys.ts';

/** The parts of Element Plus that most views use; nothing else comes with the first page. */
const elements = {
  ElButton,
  ElCheckbox,
  ElDialog,
  ElDropdown,
  ElDropdownItem,
  ElDropdownMenu,
  ElInput,
  ElOption,
  ElOptionGroup,
  ElPopover,
  ElProgress,
  ElSelect,
  ElTooltip,
  ElTree,
};

/** Large, and needed by few: they come when they are first shown. */
const later = {
  ElDatePicker: defineAsyncComponent(() => import('./elements/date-picker.ts')),
  ElInputNumber: defineAsyncComponent(() => import('./elements/input-number.ts')),
  ElMention: defineAsyncComponent(() => import('./elements/mention.ts')),
  ElDrawer: defineAsyncComponent(() => import('./elements/drawer.ts')),
  ElSlider: defineAsyncComponent(() => import('./elements/slider.ts')),
  ElTreeV2: defineAsyncComponent(() => import('./elements/tree-v2.ts')),
};

export function installElements(app: App): void {
  for (const element of Object.values(elements)) app.use(element as never);
  for (const [name, element] of Object.entries(later)) app.component(name, element);
  app.component('AppDialog', AppDialog);
  app.directive('arrow-keys', arrowKeys);
}
