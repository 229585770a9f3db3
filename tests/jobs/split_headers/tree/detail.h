#pragma once
constexpr int kDatum = 40;
