B=/work/main/build
L=$(grep -A3 "build bench/check_times:" $B/build.ninja >/dev/null; awk '/build bench\/check_times:/{f=1} f&&/LINK_LIBRARIES/{sub(/.*LINK_LIBRARIES = /,"");print;exit}' $B/build.ninja)
cd $B && g++ -std=c++20 -O2 -DGLM_FORCE_SIZE_T_LENGTH $(awk '/build bench\/CMakeFiles\/check_times/{f=1} f&&/DEFINES/{sub(/.*DEFINES = /,"");print;exit}' build.ninja) $(awk '/build bench\/CMakeFiles\/check_times/{f=1} f&&/INCLUDES/{sub(/.*INCLUDES = /,"");print;exit}' build.ninja) /tmp/dbg/dbg.cpp -o /tmp/dbg/dbg $L
