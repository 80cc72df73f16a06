import 'element-plus/es/components/input-number/style/css';

export { ElInputNumber as default } from 'element-plus';
