# What is installed, and the Debian package of it: cpack -G DEB.
include(GNUInstallDirs)

install(TARGETS lostline lostline-cli RUNTIME DESTINATION ${CMAKE_INSTALL_BINDIR})
install(TARGETS lostline-kernel RUNTIME DESTINATION libexec/lostline)
set(packaging ${CMAKE_SOURCE_DIR}/packaging)
install(FILES ${packaging}/lostline.desktop DESTINATION ${CMAKE_INSTALL_DATADIR}/applications)
install(FILES ${packaging}/lostline-mime.xml DESTINATION ${CMAKE_INSTALL_DATADIR}/mime/packages RENAME lostline.xml)
install(FILES ${packaging}/lostline.svg DESTINATION ${CMAKE_INSTALL_DATADIR}/icons/hicolor/scalable/apps)
install(FILES ${packaging}/org.lostline.LostLine.metainfo.xml DESTINATION ${CMAKE_INSTALL_DATADIR}/metainfo)
install(FILES ${packaging}/copyright DESTINATION ${CMAKE_INSTALL_DATADIR}/doc/lostline)
foreach(scan pedestal.stl drum-flange.ply wall-bracket.ply crank-1.ply crank-2.ply brake-drum.ply)
  list(APPEND demo_scans ${CMAKE_BINARY_DIR}/demo/${scan})
endforeach()
install(FILES ${demo_scans} DESTINATION ${CMAKE_INSTALL_DATADIR}/lostline/demo)

# Manual pages and changelogs are compressed, without the time of day: the same package each time.
foreach(page lostline.1 lostline-cli.1)
  list(APPEND compressed ${packaging}/${page}:${CMAKE_INSTALL_DATADIR}/man/man1/${page}.gz)
endforeach()
list(APPEND compressed ${packaging}/changelog.Debian:${CMAKE_INSTALL_DATADIR}/doc/lostline/changelog.gz)
foreach(pair IN LISTS compressed)
  string(REPLACE ":" ";" pair ${pair})
  list(GET pair 0 source)
  list(GET pair 1 target)
  get_filename_component(name ${target} NAME)
  get_filename_component(folder ${target} DIRECTORY)
  add_custom_command(OUTPUT ${CMAKE_BINARY_DIR}/packaging/${name}
    COMMAND ${CMAKE_COMMAND} -E make_directory ${CMAKE_BINARY_DIR}/packaging
    COMMAND gzip -9n < ${source} > ${CMAKE_BINARY_DIR}/packaging/${name}
    DEPENDS ${source})
  list(APPEND made ${CMAKE_BINARY_DIR}/packaging/${name})
  install(FILES ${CMAKE_BINARY_DIR}/packaging/${name} DESTINATION ${folder})
endforeach()
add_custom_target(package_files DEPENDS ${made} demo_data lostline lostline-cli lostline-kernel)

set(CPACK_GENERATOR DEB)
set(CPACK_PACKAGE_NAME lostline)
set(CPACK_PACKAGE_VENDOR "The Lost Line developers")
set(CPACK_PACKAGE_CONTACT "The Lost Line developers <developers@lostline.org>")
set(CPACK_PACKAGE_DESCRIPTION_SUMMARY "rebuild parts from scans and prove them")
set(CPACK_PACKAGE_DESCRIPTION
"Lost Line is for the mechanical design engineer who rebuilds a machined,
cast or fabricated part from a scan: it splits the scan into surfaces, sets
the part into a datum frame, traces sections as dimensioned sketches, builds
the part step by step, and shows how far the scan lies from the model.
.
The package holds the window, the command line, the guide and a demo part.")
set(CPACK_PACKAGING_INSTALL_PREFIX /usr)
set(CPACK_STRIP_FILES ON)
set(CPACK_DEBIAN_FILE_NAME DEB-DEFAULT)
set(CPACK_DEBIAN_PACKAGE_SECTION science)
set(CPACK_DEBIAN_PACKAGE_SHLIBDEPS ON)
# What no library names: the window's platform, and drawing without a graphics card.
set(CPACK_DEBIAN_PACKAGE_DEPENDS "qt6-qpa-plugins, libgl1-mesa-dri")
set(CPACK_DEBIAN_PACKAGE_CONTROL_STRICT_PERMISSION ON)
set(CPACK_INSTALL_DEFAULT_DIRECTORY_PERMISSIONS
  OWNER_READ OWNER_WRITE OWNER_EXECUTE GROUP_READ GROUP_EXECUTE WORLD_READ WORLD_EXECUTE)
include(CPack)
