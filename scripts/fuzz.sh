#!/bin/sh
# Sends anything to every reader of strangers' files, each for so long ($1, as in 12m). Making an
# interesting input smaller is cut short: by default it takes a minute each, in which nothing is tried.
set -eu
for target in $(grep -rhoE --include='*_test.go' '^func Fuzz[A-Za-z]+' . | sed 's/^func //' | sort -u); do
	package=$(dirname "$(grep -rlE --include='*_test.go' "^func $target\(" . | head -n 1)")
	echo "$package $target"
	go test "$package" -run '^$' -fuzz "^$target\$" -fuzztime "$1" -fuzzminimizetime 1s
done
