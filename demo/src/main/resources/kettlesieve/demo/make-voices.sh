#!/bin/sh
# Made the voices here once, with espeak-ng 1.51 and SoX 14.4.2: made-up readings by synthesised
# voices, with pauses. Nothing needs to run this again.
set -e

# voice NAME SPEAKER SPEED PITCH, lines of "pause after|text" on standard input
voice() {
  work=$(mktemp -d)
  sox -n -r 48000 -c 1 -b 24 "$work/00.wav" trim 0 "${5:-1.0}"
  n=10
  while IFS='|' read -r pause text; do
    n=$((n + 1))
    espeak-ng -v "$2" -s "$3" -p "$4" -w "$work/raw.wav" "$text"
    sox "$work/raw.wav" -r 48000 -b 24 "$work/$n.wav" gain -6 rate -v 48000 \
      silence 1 0.01 0.1% reverse silence 1 0.01 0.1% reverse pad 0 "$pause"
    rm "$work/raw.wav"
  done
  sox "$work"/*.wav -b 16 "$1"
  rm -r "$work"
}

voice keepers-log-voice.flac en-gb 150 38 <<'END'
0.9|Log of the light at Gull Rock. Ninth of November, first watch.
1.2|Wind north west, force seven. Sea rough, with showers of hail.
1.0|Trimmed the lamp at six. The glass is falling.
1.1|A schooner passed the bell buoy at a quarter past eight, under shortened sail.
0.9|She answered our signal with two flashes.
1.2|Pressed the bearings of the fog horn and topped up the paraffin.
1.0|All is well at the light.
END

voice lamp-room-voice.flac en-gb-scotland 140 30 <<'END'
1.3|Lamp room, second watch. The lens turns true.
1.4|Wiped the prisms and wound the clockwork at ten.
1.5|Fog came in from the sound at eleven.
END

voice radio-call-voice.flac en-gb 165 52 0.6 <<'END'
0.7|Harbour, harbour, this is the pilot boat.
0.6|Two fishing boats are coming in behind me.
0.8|Please light the inner beacon. Over.
END

voice tide-table-voice.flac en-gb+f2 135 55 0.8 <<'END'
0.6|High water at the inner pier, four twenty two.
0.6|Low water at the slip, ten thirty five.
0.6|Springs on Thursday, neaps on the tenth.
0.8|Mind the bar on the ebb.
END
