#!/bin/sh
# What somebody who writes filter graphs by hand would do for a face: exposure and colour temperature of the whole frame, merged
# under a still feathered mask of 16 bit, everything on one thread. Deliveries are measured against it.
#   filter-graph.sh FOOTAGE MASK FRAMES OUT.mkv
set -eu
exec ffmpeg -hide_banner -v error -nostdin -y -threads 1 -filter_complex_threads 1 -i "$1" -i "$2" -filter_complex "
    [0:v]format=gbrp16le,split[untreated][light];
    [light]format=gbrpf32le,exposure=exposure=0.85,format=gbrp16le,colortemperature=temperature=5800[treated];
    [1:v]format=gbrp16le,loop=loop=-1:size=1[mask];
    [untreated][treated][mask]maskedmerge,format=yuv444p16le" \
    -frames:v "$3" -an -c:v ffv1 -level 3 -coder 1 -g 1 -slices 4 -slicecrc 1 -threads 1 "$4"
