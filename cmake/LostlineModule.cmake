# add_core_module(NAME DEPENDS module... PRIVATE target...)
#
# Declares the static library lostline_NAME from every .cpp below the calling folder's NAME/. DEPENDS are core modules whose
# headers this one may include (the layer check holds the same table); PRIVATE are foreign targets used in .cpp files only.
# PCH names the target whose precompiled header it shares: lostline_core_pch unless it says otherwise.
function(add_core_module name)
  cmake_parse_arguments(ARG "" "PCH" "DEPENDS;PRIVATE" ${ARGN})
  file(GLOB_RECURSE sources CONFIGURE_DEPENDS ${CMAKE_CURRENT_SOURCE_DIR}/${name}/*.cpp)
  if(NOT sources)
    return()
  endif()
  add_library(lostline_${name} STATIC ${sources})
  target_include_directories(lostline_${name} PUBLIC ${CMAKE_SOURCE_DIR}/src/core)
  target_link_libraries(lostline_${name} PUBLIC Eigen3::Eigen)
  foreach(dependency IN LISTS ARG_DEPENDS)
    target_link_libraries(lostline_${name} PUBLIC lostline_${dependency})
  endforeach()
  target_link_libraries(lostline_${name} PRIVATE ${ARG_PRIVATE})
  if(NOT ARG_PCH)
    set(ARG_PCH lostline_core_pch)
  endif()
  target_precompile_headers(lostline_${name} REUSE_FROM ${ARG_PCH})
  compile_in_batches(lostline_${name})
endfunction()

# add_precompiled(NAME HEADER target...)
#
# A precompiled header of its own, shared by the targets that REUSE_FROM it; made with the settings of the given targets.
function(add_precompiled name header)
  file(WRITE ${CMAKE_BINARY_DIR}/pch/${name}.cpp "")
  add_library(${name} OBJECT ${CMAKE_BINARY_DIR}/pch/${name}.cpp)
  target_link_libraries(${name} PRIVATE Eigen3::Eigen ${ARGN})
  target_precompile_headers(${name} PRIVATE ${header})
endfunction()
