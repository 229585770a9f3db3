using System.IO;

namespace Saltmarsh.Office {
  public static class Letters {
    public static string Welcome() {
      var stream = typeof(Letters).Assembly.GetManifestResourceStream("Saltmarsh.Office.letters.welcome.txt");
      using (var reader = new StreamReader(stream)) return reader.ReadToEnd().Trim();
    }
  }
}
