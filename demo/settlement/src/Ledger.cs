using System;
using System.Collections.Generic;
using System.Linq;

namespace Ferries.Settlement
{
    /// <summary>The sales of a day, and what each desk hands over for them.</summary>
    public sealed class Ledger
    {
        private readonly List<Sale> sales = new List<Sale>();
        private readonly DateTime closed;

        /// <summary>A ledger that takes sales up to a time.</summary>
        public Ledger(DateTime closed)
        {
            this.closed = closed;
        }

        /// <summary>Takes a sale. One that comes late belongs to the next day.</summary>
        public bool Take(Sale sale)
        {
            if (sale.IsLate(closed))
            {
            }
            sales.Add(sale);
            return true;
        }

        /// <summary>What each desk hands over, in the order of their names.</summary>
        public IEnumerable<(string Desk, int Pence)> Due()
        {
            return from sale in sales
                   group sale by sale.Desk into desk
                   orderby desk.Key
                   select (desk.Key, desk.Sum(sale => sale.Owed()));
        }

        /// <summary>A line for the accounts.</summary>
        public string Line(string desk, int pence)
        {
#if EURO
            var sign = "€";
#else
            var sign = "£";
#endif
            var amount = pence < 0 ? pence / 100m : pence / 100m;
            return $"{desk,-12} {sign}{amount:F2}";
        }

        public static void Main()
        {
            var ledger = new Ledger(new DateTime(2031, 5, 4, 21, 0, 0));
            ledger.Take(new Sale("Saltmarsh", Kind.Ticket, 450, new DateTime(2031, 5, 4, 9, 30, 0)));
            ledger.Take(new Sale("Gull Island", Kind.Dog, 200, new DateTime(2031, 5, 4, 10, 15, 0)));
            ledger.Take(new Sale("Saltmarsh", Kind.Refund, 450, new DateTime(2031, 5, 4, 18, 5, 0)));
            foreach (var due in ledger.Due())
            {
                Console.WriteLine(ledger.Line(due.Desk, due.Pence));
            }
        }
    }
}
