// Styles are nothing to unit tests.
export default {};
