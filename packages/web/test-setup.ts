import { config } from '@vue/test-utils';
import { installElements } from './src/platform/elements.ts';

config.global.plugins = [installElements];
