using Saltmarsh.Core;
namespace Saltmarsh.Desk {
  public class Members { public Tide Next = new Tide(); }
}
