module cressa

go 1.26.0

require (
	codeberg.org/go-fonts/dejavu v0.4.0
	codeberg.org/go-pdf/fpdf v0.12.0
	github.com/chromedp/cdproto v0.159.0
	github.com/chromedp/chromedp v0.23.0
	github.com/go-playground/validator/v10 v10.30.6
	github.com/labstack/echo/v5 v5.4.4
	github.com/pressly/goose/v3 v3.29.0
	github.com/spf13/cobra v1.10.2
	github.com/stretchr/testify v1.12.1
	go.bug.st/serial v1.8.0
	golang.org/x/image v0.40.0
	golang.org/x/sys v0.49.0
	golang.org/x/text v0.43.0
	gonum.org/v1/gonum v0.17.0
	modernc.org/sqlite v1.61.1
	pgregory.net/rapid v1.3.0
	rsc.io/qr v0.2.0
)

require (
	github.com/dustin/go-humanize v1.1.0 // indirect
	github.com/gabriel-vasile/mimetype v1.4.16 // indirect
	github.com/go-json-experiment/json v0.0.0-20260213210345-44df1a37e875 // indirect
	github.com/go-playground/locales v0.14.2 // indirect
	github.com/go-playground/universal-translator v0.18.2 // indirect
	github.com/google/uuid v1.6.0 // indirect
	github.com/inconshreveable/mousetrap v1.1.0 // indirect
	github.com/leodido/go-urn v1.5.0 // indirect
	github.com/mattn/go-isatty v0.0.24 // indirect
	github.com/mfridman/interpolate v0.0.2 // indirect
	github.com/ncruces/go-strftime v1.1.0 // indirect
	github.com/remyoudompheng/bigfft v0.0.0-20230129092748-24d4a6f8daec // indirect
	github.com/sethvargo/go-retry v0.5.0 // indirect
	github.com/spf13/pflag v1.0.9 // indirect
	go.uber.org/multierr v1.11.0 // indirect
	go.yaml.in/yaml/v3 v3.0.5 // indirect
	golang.org/x/crypto v0.58.0 // indirect
	golang.org/x/sync v0.24.0 // indirect
	golang.org/x/time v0.15.0 // indirect
	modernc.org/libc v1.79.0 // indirect
	modernc.org/mathutil v1.7.1 // indirect
	modernc.org/memory v1.12.1 // indirect
)

ignore ./ui/node_modules
