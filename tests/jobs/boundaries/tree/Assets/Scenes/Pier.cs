using Saltmarsh.Core;
namespace Saltmarsh.Scenes {
  public class Pier { public Level Base = new Level(); }
}
