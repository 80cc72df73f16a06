import 'element-plus/es/components/date-picker/style/css';

export { ElDatePicker as default } from 'element-plus';
