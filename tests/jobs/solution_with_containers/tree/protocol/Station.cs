namespace Saltmarsh.Protocol {
  public static class Station {
    public const string Name = "Eel Pier";
  }
}
