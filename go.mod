module jointime

go 1.26.8

require (
	github.com/BurntSushi/toml v1.6.0
	github.com/alexedwards/scs/postgresstore v0.0.0-20251002162104-209de6e426de
	github.com/alexedwards/scs/v2 v2.9.0
	github.com/arran4/golang-ical v0.3.4
	github.com/bep/imagemeta v1.0.1
	github.com/chromedp/chromedp v0.23.0
	github.com/danielgtaylor/huma/v2 v2.37.2
	github.com/emersion/go-ical v0.0.0-20250329121855-f41e73efc392
	github.com/go-chi/chi/v5 v5.2.5
	github.com/go-fonts/dejavu v0.3.2
	github.com/go-pdf/fpdf v0.9.0
	github.com/jackc/pgx/v5 v5.12.0
	github.com/jmoiron/sqlx v1.4.0
	github.com/ledongthuc/pdf v0.0.0-20260907135840-6c8c28e0e8a0
	github.com/nicksnyder/go-i18n/v2 v2.7.0
	github.com/pressly/goose/v3 v3.29.0
	github.com/skip2/go-qrcode v0.0.0-20200617195104-da1b6568686e
	github.com/spf13/cobra v1.10.2
	github.com/stretchr/testify v1.12.1
	github.com/tealeg/xlsx/v3 v3.3.13
	github.com/xuri/excelize/v2 v2.11.1
	golang.org/x/crypto v0.59.0
	golang.org/x/image v0.48.0
	golang.org/x/sync v0.25.0
	golang.org/x/text v0.44.0
	pgregory.net/rapid v1.3.0
)

require (
	github.com/chromedp/cdproto v0.159.0 // indirect
	github.com/frankban/quicktest v1.14.6 // indirect
	github.com/go-json-experiment/json v0.0.0-20260213210345-44df1a37e875 // indirect
	github.com/google/btree v1.0.0 // indirect
	github.com/google/go-cmp v0.7.0 // indirect
	github.com/inconshreveable/mousetrap v1.1.0 // indirect
	github.com/jackc/pgpassfile v1.0.0 // indirect
	github.com/jackc/pgservicefile v0.0.0-20240606120523-5a60cdf6a761 // indirect
	github.com/jackc/puddle/v2 v2.2.3 // indirect
	github.com/kr/pretty v0.3.1 // indirect
	github.com/kr/text v0.2.0 // indirect
	github.com/mfridman/interpolate v0.0.2 // indirect
	github.com/peterbourgon/diskv/v3 v3.0.1 // indirect
	github.com/richardlehane/mscfb v1.0.9 // indirect
	github.com/richardlehane/msoleps v1.0.6 // indirect
	github.com/rogpeppe/fastuuid v1.2.0 // indirect
	github.com/rogpeppe/go-internal v1.16.0 // indirect
	github.com/sethvargo/go-retry v0.5.0 // indirect
	github.com/shabbyrobe/xmlwriter v0.0.0-20200208144257-9fca06d00ffa // indirect
	github.com/spf13/pflag v1.0.10 // indirect
	github.com/teambition/rrule-go v1.8.2 // indirect
	github.com/tiendc/go-deepcopy v1.7.2 // indirect
	github.com/xuri/efp v0.0.3-0.20260924042702-217b81952dec // indirect
	github.com/xuri/nfp v0.0.2-0.20250530014748-2ddeb826f9a9 // indirect
	go.uber.org/multierr v1.11.0 // indirect
	go.yaml.in/yaml/v3 v3.0.5 // indirect
	golang.org/x/exp/typeparams v0.0.0-20231108232855-2478ac86f678 // indirect
	golang.org/x/mod v0.42.0 // indirect
	golang.org/x/net v0.62.0 // indirect
	golang.org/x/sys v0.50.0 // indirect
	golang.org/x/tools v0.52.0 // indirect
	gonum.org/v1/gonum v0.17.0 // indirect
	honnef.co/go/tools v0.8.2 // indirect
)

tool honnef.co/go/tools/cmd/staticcheck

ignore ./web/node_modules
