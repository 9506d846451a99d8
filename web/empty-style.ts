export default '';
