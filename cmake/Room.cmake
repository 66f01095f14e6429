# SPDX-License-Identifier: GPL-3.0-or-later
# One folder under src/ is one room: a static library that may use the rooms named after USES, and no other.
# tests/architecture checks includes and USES against src/rooms.txt. SPEED: rooms with little arithmetic over pixels are compiled faster than they run; with
# ML_QUICK_BUILD (the sanitizers' preset) they are not optimised at all: a third less to compile.
# PRECOMPILE: headers that nearly every file of the room reads; each file still names what it uses (the debug preset builds without them).
# -Wno-restrict: GCC 12 reports std::string concatenation (GCC bug 105651).
set(ML_WARNINGS -Wall -Wextra -Wpedantic -Wshadow -Wconversion -Wno-sign-conversion -Wno-float-conversion -Wno-restrict -Werror)

if(CMAKE_CXX_COMPILER_ID MATCHES "Clang") # used for the fuzz targets; its warnings are others
  set(ML_WARNINGS -Wall -Wextra)
endif()

function(ml_room name)
  cmake_parse_arguments(ROOM "" "SPEED" "SOURCES;USES;LIBRARIES;PRECOMPILE" ${ARGN})
  list(TRANSFORM ROOM_USES PREPEND "ml_")
  if(ROOM_SOURCES)
    add_library(ml_${name} STATIC ${ROOM_SOURCES})
    target_include_directories(ml_${name} PUBLIC ${PROJECT_SOURCE_DIR}/src)
    target_link_libraries(ml_${name} PUBLIC ${ROOM_USES} PRIVATE ${ROOM_LIBRARIES})
    target_compile_options(ml_${name} PRIVATE ${ML_WARNINGS} -fno-math-errno -fno-trapping-math)
    if(ROOM_SPEED AND CMAKE_BUILD_TYPE STREQUAL "Release")
      target_compile_options(ml_${name} PRIVATE ${ROOM_SPEED})
    elseif(ROOM_SPEED AND ML_QUICK_BUILD)
      target_compile_options(ml_${name} PRIVATE -O0)
    endif()
    if(ROOM_PRECOMPILE)
      target_precompile_headers(ml_${name} PRIVATE ${ROOM_PRECOMPILE})
    endif()
  else()
    add_library(ml_${name} INTERFACE)
    target_include_directories(ml_${name} INTERFACE ${PROJECT_SOURCE_DIR}/src)
    target_link_libraries(ml_${name} INTERFACE ${ROOM_USES} ${ROOM_LIBRARIES})
  endif()
endfunction()
