#!/usr/bin/env bash
# Twelve test pieces from recorded speech, four stand-ins at three amounts: the trial of the
# round-up. Wants the packages that ./kettle calibrate brings, and Debian's ffmpeg and a tape whose
# pauses hold its noise (the demo's will do).
#
#   docs/calibration/round-up/pieces.sh PACKAGES TAPE.wav FOLDER
set -euo pipefail
packages=$(realpath "$1") tape=$(realpath "$2") folder=$3
kettle=$(dirname "$(realpath "$0")")/../../../kettle
mkdir -p "$folder/clean"
folder=$(realpath "$folder")

# Files one after another, with 0.9 s of silence behind each, one channel at 22,050 Hz.
voice() {
  local out=$folder/clean/$1.wav inputs=() parts="" joined="" n=0 file
  shift
  for file in "$@"; do
    inputs+=(-i "$file")
    parts+="[$n:a]aresample=22050,aformat=channel_layouts=mono,apad=pad_dur=0.9[a$n];"
    joined+="[a$n]"
    n=$((n + 1))
  done
  ffmpeg -v error -y "${inputs[@]}" -filter_complex "$parts${joined}concat=n=$n:v=0:a=1[o]" \
    -map "[o]" -t 14 -ac 1 "$out"
}
nth() { sort | sed -n "$1p"; }
readings=$packages/pocketsphinx-testdata/usr/share/pocketsphinx/test/data/librivox
talk=$packages/fillets-ng-data-cs/usr/share/games/fillets-ng/sound
words=$packages/ktuberling-data/usr/share/ktuberling/sounds
voice reader-1 $(find "$readings" -name '*.wav' | nth 1,2)
voice reader-2 $(find "$readings" -name '*.wav' | nth 3,5)
voice city-m $(find "$talk/city" -name '*-m-*.ogg' | nth 1,5)
voice city-v $(find "$talk/city" -name '*-v-*.ogg' | nth 1,5)
voice barrel-m $(find "$talk/barrel" -name '*-m-*.ogg' | nth 1,5)
voice bathroom-v $(find "$talk/bathroom" -name '*-v-*.ogg' | nth 1,5)
for language in da de fr it nl es; do
  voice "words-$language" $(find "$words/$language" -name '*.wav' -o -name '*.ogg' | grep "/$language/" | nth 1,12)
done

piece() {
  local name=$1 clean=$2
  shift 2
  [ -e "$folder/$name.sieve" ] || "$kettle" testpiece "$folder/$name.sieve" --job denoise \
    --clean "$folder/clean/$clean.wav" --tool plain-subtraction --tool smoothed-wiener \
    --tool power-subtraction --tool band-gate --amounts 30,60,90 "$@" | head -1
}
piece p01 reader-1 --noise white --snr 10 --tag hiss
piece p02 reader-2 --noise pink --snr 10 --tag hiss
piece p03 city-m --noise pink --snr 5 --tag hiss
piece p04 city-v --noise hum --snr 5 --tag hum
piece p05 barrel-m --noise hum --snr 10 --tag hum
piece p06 bathroom-v --noise clicks --snr 10 --tag clicks
piece p07 words-da --noise white --snr 15 --tag hiss
piece p08 words-de --noise clicks --snr 5 --tag clicks
piece p09 words-fr --noise "pause:$tape" --snr 10 --tag tape
piece p10 words-it --noise "pause:$tape" --snr 5 --seed 4 --tag tape
piece p11 words-nl --noise "$folder/clean/city-m.wav" --snr 10 --tag voices
piece p12 words-es --noise "$folder/clean/barrel-m.wav" --snr 5 --tag voices
"$kettle" roundup "$folder" --json "$folder/roundup.json"
"$kettle" roundup "$folder" --by tool
