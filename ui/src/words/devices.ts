/** What is said of other devices. */
export const deviceWords = {
  tab: 'Devices',
  lead: 'Tablets and other screens that may work on the same records over your own network.',
  closed:
    'The network is shut out now. Start Cressa with “cressa serve --lan” to let a tablet in; nothing can enter before it is paired.',
  address: 'Tablets find Cressa at this address.',
  how: 'On the tablet, open this address or scan it, then type the code.',
  let: 'Let a device in',
  letHelp:
    'You get a code for one device. Nobody else is let in, and after ten minutes nobody at all.',
  code: 'Pairing code',
  codeHelp: (until: string) => `Good for one device, until ${until}.`,
  renew: 'A new code',
  close: 'Let nobody in',
  wrong: (count: number, last: string) =>
    count === 1
      ? `A wrong code was typed at ${last}. It let nobody in.`
      : `${count} wrong codes were typed, the last at ${last}. They let nobody in.`,
  wrongClosed: 'The code was withdrawn because of them.',
  seenWrong: 'I have seen it',
  qr: 'The address as a QR code',
  plain:
    'Over plain http the open bench goes on when the network is lost, but it cannot be loaded anew then. With a certificate of your own (--cert, --key) it can be installed and also loads without the network.',
  none: 'No device is paired.',
  name: 'Name',
  paired: 'Paired',
  seen: 'Last seen',
  revoke: (name: string) => `Shut ${name} out`,
  revoked: (name: string) => `${name} is shut out`,
  elsewhere: 'Devices are let in and shut out at the machine that Cressa runs on.',
  keepOpen:
    'Keep this page open: it goes on without the network, but over plain http it cannot be loaded anew then.',
  understood: 'Understood',
};
