/** What is said of other devices. */
export const deviceWords = {
  tab: 'Devices',
  lead: 'Tablets and other screens that may work on the same records over your own network.',
  closed:
    'The network is shut out now. Start Cressa with “cressa serve --lan” to let a tablet in; nothing can enter before it is paired.',
  how: 'On the tablet, open this address or scan it, then type the code.',
  code: 'Pairing code',
  codeHelp: 'Good for one device, for ten minutes.',
  renew: 'A new code',
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
