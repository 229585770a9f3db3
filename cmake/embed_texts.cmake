# Writes page_texts.h into OUT: the style and the script of pages (data/page), as texts. Run by
# `cmake -DIN=data/page -DOUT=… -P`.
cmake_minimum_required(VERSION 3.25)
file(READ "${IN}/page.css" style)
file(READ "${IN}/page.js" script)
file(WRITE "${OUT}/page_texts.h" "// Made from data/page.\n#pragma once\n\nnamespace yc::report {\n\n\
inline constexpr char kPageStyle[] = R\"page(${style})page\";\n\
inline constexpr char kPageScript[] = R\"page(${script})page\";\n\n}  // namespace yc::report\n")
