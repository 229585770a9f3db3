# Manual pages and completions, which the program itself writes, and the Debian package.
set(page_commands survey refs move catch-up check rehearse carve restyle layout impact undo resume history completion manual)
set(pages ${CMAKE_BINARY_DIR}/pages)
set(page_files ${pages}/yellow-compass.1 ${pages}/yellow-compass.bash ${pages}/_yellow-compass ${pages}/yellow-compass.fish)
set(page_runs
  COMMAND ${CMAKE_COMMAND} -E make_directory ${pages}
  COMMAND yellow-compass manual > ${pages}/yellow-compass.1
  COMMAND yellow-compass completion bash > ${pages}/yellow-compass.bash
  COMMAND yellow-compass completion zsh > ${pages}/_yellow-compass
  COMMAND yellow-compass completion fish > ${pages}/yellow-compass.fish)
foreach(command ${page_commands})
  list(APPEND page_files ${pages}/yellow-compass-${command}.1)
  list(APPEND page_runs COMMAND yellow-compass manual ${command} > ${pages}/yellow-compass-${command}.1)
endforeach()
add_custom_command(OUTPUT ${page_files} ${page_runs} DEPENDS yellow-compass VERBATIM)
if(NOT YELLOW_COMPASS_SANITIZE)
  add_custom_target(pages ALL DEPENDS ${page_files})
  include(GNUInstallDirs)
  install(DIRECTORY ${pages}/ DESTINATION ${CMAKE_INSTALL_MANDIR}/man1 FILES_MATCHING PATTERN "*.1")
  install(FILES ${pages}/yellow-compass.bash DESTINATION ${CMAKE_INSTALL_DATADIR}/bash-completion/completions RENAME yellow-compass)
  install(FILES ${pages}/_yellow-compass DESTINATION ${CMAKE_INSTALL_DATADIR}/zsh/vendor-completions)
  install(FILES ${pages}/yellow-compass.fish DESTINATION ${CMAKE_INSTALL_DATADIR}/fish/vendor_completions.d)
  install(FILES ${CMAKE_SOURCE_DIR}/LICENSE ${CMAKE_SOURCE_DIR}/README.md DESTINATION ${CMAKE_INSTALL_DOCDIR})
endif()

set(CPACK_GENERATOR DEB)
set(CPACK_PACKAGE_NAME yellow-compass)
set(CPACK_PACKAGE_CONTACT "Saltmarsh tide network <volunteers@saltmarsh.example>")
set(CPACK_PACKAGE_DESCRIPTION_SUMMARY "moves source files and keeps what names them pointing at the new places")
set(CPACK_PACKAGING_INSTALL_PREFIX /usr)
set(CPACK_DEBIAN_PACKAGE_SECTION devel)
set(CPACK_DEBIAN_PACKAGE_SHLIBDEPS ON)
set(CPACK_DEBIAN_FILE_NAME DEB-DEFAULT)
set(CPACK_STRIP_FILES ON)
include(CPack)
