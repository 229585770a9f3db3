namespace Saltmarsh.Core {
  public class Level { public const int Metre = 1; }
}
