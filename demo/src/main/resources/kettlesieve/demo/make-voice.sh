#!/bin/sh
# Made keepers-log-voice.flac once, with espeak-ng 1.51 and SoX 14.4.2: a made-up lighthouse log,
# read by a synthesised voice, with pauses. Nothing needs to run this again.
set -e
work=$(mktemp -d)
sox -n -r 48000 -c 1 -b 24 "$work/0.wav" trim 0 1.0
n=0
while IFS='|' read -r pause text; do
  n=$((n + 1))
  espeak-ng -v en-gb -s 150 -p 38 -w "$work/raw.wav" "$text"
  sox "$work/raw.wav" -r 48000 -b 24 "$work/$n.wav" gain -6 rate -v 48000 \
    silence 1 0.01 0.1% reverse silence 1 0.01 0.1% reverse pad 0 "$pause"
done <<'END'
0.9|Log of the light at Gull Rock. Ninth of November, first watch.
1.2|Wind north west, force seven. Sea rough, with showers of hail.
1.0|Trimmed the lamp at six. The glass is falling.
1.1|A schooner passed the bell buoy at a quarter past eight, under shortened sail.
0.9|She answered our signal with two flashes.
1.2|Pressed the bearings of the fog horn and topped up the paraffin.
1.0|All is well at the light.
END
sox "$work/0.wav" "$work"/[1-7].wav -b 16 keepers-log-voice.flac
rm -r "$work"
