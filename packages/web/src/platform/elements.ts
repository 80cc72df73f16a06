import {
  ElAutocomplete,
  ElButton,
  ElCheckbox,
  ElDatePicker,
  ElDialog,
  ElDrawer,
  ElDropdown,
  ElDropdownItem,
  ElDropdownMenu,
  ElInput,
  ElOption,
  ElOptionGroup,
  ElPopover,
  ElProgress,
  ElSelect,
  ElSlider,
  ElTooltip,
  ElTree,
  ElTreeV2,
} from 'element-plus';
import type { App } from 'vue';

/** The parts of Element Plus that we use; nothing else reaches the bundle. */
const elements = {
  ElAutocomplete,
  ElButton,
  ElCheckbox,
  ElDatePicker,
  ElDialog,
  ElDrawer,
  ElDropdown,
  ElDropdownItem,
  ElDropdownMenu,
  ElInput,
  ElOption,
  ElOptionGroup,
  ElPopover,
  ElProgress,
  ElSelect,
  ElSlider,
  ElTooltip,
  ElTree,
  ElTreeV2,
};

export function installElements(app: App): void {
  for (const element of Object.values(elements)) app.use(element as never);
}
