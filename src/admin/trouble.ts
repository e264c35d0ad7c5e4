/** Something whoever runs a command can mend: said as it is, without a stack. */
export class Trouble extends Error {}
