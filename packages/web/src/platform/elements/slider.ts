import 'element-plus/es/components/slider/style/css';

export { ElSlider as default } from 'element-plus';
