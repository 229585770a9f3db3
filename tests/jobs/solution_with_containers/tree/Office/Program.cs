using System;
using Saltmarsh.Protocol;

namespace Saltmarsh.Office {
  static class Program {
    static int Main() {
      Console.WriteLine("{0} members, dues {1}", Members.Names.Length, Ledger.Dues.Of(Members.Names.Length));
      Console.WriteLine("{0} {1}, packets of {2}", Letters.Welcome(), Station.Name, Packet.Size);
      return 0;
    }
  }
}
