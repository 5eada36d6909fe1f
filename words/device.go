package words

import "cressa/device"

// Trouble tells why an instrument is away, and what to do.
func Trouble(t device.Trouble) string {
	switch t {
	case device.Unreachable:
		return "Nothing answers at its address. Switch it on, and check the address."
	case device.ElsewhereRefused:
		return "Its address is not in your own network. Instruments are read on this machine and in private networks only."
	case device.NoPort:
		return "There is no such port now. Plug it in."
	case device.PortTaken:
		return "The port cannot be opened: another program has it, or this one may not use it."
	case device.HungUp:
		return "It was here and ended the connection. It comes back by itself once it is on again."
	case device.Silent:
		return "It is connected and says nothing. Check its cable and its battery."
	case device.Babble:
		return "What it sends cannot be read. Check the speed of its port, and its protocol in docs/devices.md."
	}
	return ""
}
