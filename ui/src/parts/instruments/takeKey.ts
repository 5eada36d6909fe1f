/** The key that takes what an instrument reads into a field. No figure has it in it. */
export const takeKey = '=';
