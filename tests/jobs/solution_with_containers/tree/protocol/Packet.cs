namespace Saltmarsh.Protocol {
  // The same numbers as in firmware/packet.h.
  public static class Packet {
    public const int Size = 8;
    public const int Sync = 0x54;
  }
}
