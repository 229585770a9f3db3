using Saltmarsh.Desk;
namespace Saltmarsh.Scenes {
  public class Harbour { public Members All = new Members(); public Pier Near = new Pier(); }
}
