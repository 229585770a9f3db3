#pragma once
#define PACKET_SIZE 8
