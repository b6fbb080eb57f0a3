# add_core_module(NAME DEPENDS module... PRIVATE target...)
#
# Declares the static library lostline_NAME from every .cpp in the calling folder's NAME/. DEPENDS are core modules whose
# headers this one may include (the layer check holds the same table); PRIVATE are foreign targets used in .cpp files only.
function(add_core_module name)
  cmake_parse_arguments(ARG "" "" "DEPENDS;PRIVATE" ${ARGN})
  file(GLOB sources CONFIGURE_DEPENDS ${CMAKE_CURRENT_SOURCE_DIR}/${name}/*.cpp)
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
endfunction()
