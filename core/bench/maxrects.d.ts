/** The package's file for ES modules has no types of its own: its entry, which Node cannot load, has. */
declare module 'maxrects-packer/dist/maxrects-packer.mjs' {
  export * from 'maxrects-packer';
}
