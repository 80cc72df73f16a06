import 'element-plus/es/components/tree-v2/style/css';

export { ElTreeV2 as default } from 'element-plus';
