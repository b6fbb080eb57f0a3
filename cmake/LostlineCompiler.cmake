# Compiler settings of every target: C++20, warnings as errors, and the build types.
set(CMAKE_CXX_STANDARD 20)
set(CMAKE_CXX_STANDARD_REQUIRED ON)
set(CMAKE_CXX_EXTENSIONS OFF)
set(CMAKE_POSITION_INDEPENDENT_CODE ON)
set(CMAKE_RUNTIME_OUTPUT_DIRECTORY ${CMAKE_BINARY_DIR}/bin)

set(CMAKE_CXX_FLAGS_DEV "-O2 -g1")  # asserts stay on
set(CMAKE_CXX_FLAGS_RELEASE "-O3 -DNDEBUG")
# Sanitizers at -O2: without small functions inlined Eigen runs ten times slower. Left out are checks of every pointer
# access (null, alignment, object-size, vptr): the address sanitizer catches what they would, and they double the run.
set(LOSTLINE_SANITIZE "-fsanitize=address,undefined -fno-sanitize=null,alignment,object-size,vptr,nonnull-attribute,returns-nonnull-attribute")
set(CMAKE_CXX_FLAGS_ASAN "-O2 -g1 ${LOSTLINE_SANITIZE} -fno-omit-frame-pointer")
set(CMAKE_EXE_LINKER_FLAGS_ASAN "-fsanitize=address,undefined")
set(CMAKE_CXX_FLAGS_TSAN "-O1 -g1 -fsanitize=thread")
set(CMAKE_EXE_LINKER_FLAGS_TSAN "-fsanitize=thread")

add_compile_options(-Wall -Wextra -Wpedantic -Werror -fpch-preprocess)
# GCC 12 reports false positives from inlined Eigen and std code under optimisation.
add_compile_options(-Wno-maybe-uninitialized -Wno-array-bounds -Wno-stringop-overflow -Wno-restrict -Wno-use-after-free)
# A precompiled header that does not fit its target is an error, not a silent slow build.
add_compile_options(-Winvalid-pch)

# The compiler cache hits in any checkout of the repository: paths below it are hashed relative, the folder built in not
# at all; precompiled headers are known by their content.
find_program(LOSTLINE_CCACHE ccache)
if(LOSTLINE_CCACHE)
  set(CMAKE_CXX_COMPILER_LAUNCHER env CCACHE_BASEDIR=${CMAKE_SOURCE_DIR} CCACHE_NOHASHDIR=1
    CCACHE_SLOPPINESS=pch_defines,time_macros,include_file_mtime,include_file_ctime ${LOSTLINE_CCACHE})
endif()

# Several files of a target are compiled as one: the headers they share (Eigen, the kernel, Qt) cost more than the files.
# Names in anonymous namespaces are therefore unique within a target. Off for tools that go by single files.
option(LOSTLINE_BATCHES "Compile the files of a target in batches" ON)
# Raised for every type of a file that is included, be it a source file.
add_compile_options($<$<BOOL:${LOSTLINE_BATCHES}>:-Wno-subobject-linkage>)

# compile_in_batches(TARGET)
#
# Batches of about five of the target's files of the calling folder. Which one a file is in follows from its name: a file
# more or less changes one batch, not all that come after it. Files with SKIP_UNITY_BUILD_INCLUSION stay alone.
function(compile_in_batches target)
  if(NOT LOSTLINE_BATCHES)
    return()
  endif()
  get_target_property(sources ${target} SOURCES)
  list(FILTER sources INCLUDE REGEX "\\.cpp$")
  list(LENGTH sources count)
  set(batches 1)
  while(count GREATER 8)
    math(EXPR count "(${count} + 1) / 2")
    math(EXPR batches "2 * ${batches}")
  endwhile()
  foreach(source IN LISTS sources)
    get_filename_component(name ${source} NAME)
    string(MD5 digest ${name})
    string(SUBSTRING ${digest} 0 4 digits)
    math(EXPR batch "0x${digits} % ${batches}")
    set_source_files_properties(${source} PROPERTIES UNITY_GROUP batch_${batch})
  endforeach()
  set_target_properties(${target} PROPERTIES UNITY_BUILD ON UNITY_BUILD_MODE GROUP)
endfunction()
