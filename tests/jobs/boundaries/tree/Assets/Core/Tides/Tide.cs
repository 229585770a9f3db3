namespace Saltmarsh.Core {
  public class Tide { public int Height = Level.Metre; }
}
