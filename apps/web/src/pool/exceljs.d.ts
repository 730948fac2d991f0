declare module 'exceljs/dist/exceljs.bare.min.js' {
  import exceljs from 'exceljs';
  export default exceljs;
}
